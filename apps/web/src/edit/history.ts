const MOST = 200;

/** States one after the other, with a way back and forth. Never changes: each step gives a new one. */
export class History<State> {
  constructor(
    readonly present: State,
    readonly past: readonly State[] = [],
    readonly future: readonly State[] = [],
  ) {}

  with(next: State): History<State> {
    return new History(next, [...this.past.slice(1 - MOST), this.present], []);
  }

  /** The same history where there is nothing to go back to. */
  back(): History<State> {
    const last = this.past.at(-1);
    if (last === undefined) return this;
    return new History(last, this.past.slice(0, -1), [this.present, ...this.future]);
  }

  forth(): History<State> {
    const [next, ...rest] = this.future;
    if (next === undefined) return this;
    return new History(next, [...this.past, this.present], rest);
  }
}
