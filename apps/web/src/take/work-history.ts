import { turnedRound, withChange, type Work, type WorkChange } from '@merry-shadow/core/edits/work';

/** Something that was done, and can be taken back. */
export interface Step {
  /** In a few words, as they stand behind "Undo". */
  label: string;
  change: WorkChange;
}

/** The most steps that are kept. */
const MOST = 5000;

/** What was done to a take, with a way back and forth. Never changes: each step gives a new one. */
export class WorkHistory {
  constructor(
    readonly past: readonly Step[] = [],
    readonly future: readonly Step[] = [],
  ) {}

  /** After something new: what had been taken back is forgotten. */
  with(step: Step): WorkHistory {
    return new WorkHistory([...this.past.slice(1 - MOST), step], []);
  }

  /** Takes the last step back. What was done to other things meanwhile stays. @returns null when there is none. */
  back(work: Work): { history: WorkHistory; work: Work; label: string } | null {
    const step = this.past.at(-1);
    if (!step) return null;
    const history = new WorkHistory(this.past.slice(0, -1), [step, ...this.future]);
    return { history, work: withChange(work, turnedRound(step.change)), label: `Undo: ${step.label}` };
  }

  /** Does again what was taken back last. @returns null when there is nothing. */
  forth(work: Work): { history: WorkHistory; work: Work; label: string } | null {
    const [step, ...rest] = this.future;
    if (!step) return null;
    const history = new WorkHistory([...this.past, step], rest);
    return { history, work: withChange(work, step.change), label: step.label };
  }
}
