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
