interface Work<T> {
  result: Promise<T>;
  unwanted: AbortController;
  waiting: number;
}

/** Work that several may wait for: it is done once for all of them, and broken off when the last one has gone. */
export class Shared<T> {
  private readonly underWay = new Map<string, Work<T>>();

  /**
   * Waits for the work of this key; begins it if nobody has.
   * @param begin is given the signal that nobody waits any more.
   * @param signal of the one who waits.
   * @throws the signal's reason as soon as it is aborted, or what the work throws.
   */
  async join(key: string, begin: (unwanted: AbortSignal) => Promise<T>, signal?: AbortSignal): Promise<T> {
    signal?.throwIfAborted();
    const work = this.underWay.get(key) ?? this.begin(key, begin);
    work.waiting++;
    let leave: (() => void) | undefined;
    const left = new Promise<never>((_, reject) => {
      leave = () => reject(signal?.reason);
      signal?.addEventListener('abort', leave, { once: true });
    });
    try {
      return await Promise.race([work.result, left]);
    } finally {
      if (leave) signal?.removeEventListener('abort', leave);
      if (--work.waiting === 0) {
        if (this.underWay.get(key) === work) this.underWay.delete(key);
        work.unwanted.abort();
      }
    }
  }

  private begin(key: string, begin: (unwanted: AbortSignal) => Promise<T>): Work<T> {
    const unwanted = new AbortController();
    const work: Work<T> = { result: begin(unwanted.signal), unwanted, waiting: 0 };
    // Who has gone does not hear of a failure.
    work.result.catch(() => undefined);
    this.underWay.set(key, work);
    return work;
  }
}
