/** A run of frames: from … until − 1. */
export type Run = readonly [from: number, until: number];

/** Runs of frames in which something holds. @param least frames of the shortest run that counts. */
export function runsWhere(frames: number, holds: (frame: number) => boolean, least = 1): Run[] {
  const runs: Run[] = [];
  for (let from = 0; from < frames;) {
    let until = from;
    while (until < frames && holds(until)) until++;
    if (until - from >= least) runs.push([from, until]);
    from = Math.max(until, from + 1);
  }
  return runs;
}

/** The shortest run that holds both; null stands for none. */
export const joinRuns = (a: Run | null, b: Run | null): Run | null =>
  a === null ? b : b === null ? a : [Math.min(a[0], b[0]), Math.max(a[1], b[1])];

/** What two runs share; null where that is nothing. */
export function sharedRun(a: Run | null, b: Run | null): Run | null {
  if (a === null || b === null) return null;
  const [from, until] = [Math.max(a[0], b[0]), Math.min(a[1], b[1])];
  return until > from ? [from, until] : null;
}

/** A run with some frames more at both ends. */
export const widenRun = ([from, until]: Run, by: number): Run => [from - by, until + by];
