import type { BodyObservations } from '../../observe/body';

/** Frames with which another shot begins, as the tracker found them. */
export function foundCuts({ cut }: Pick<BodyObservations, 'cut'>): number[] {
  return cut ? Array.from(cut.keys()).filter((frame) => cut[frame] > 0) : [];
}

/** Cuts a take into shots. @param cuts frames with which another shot begins, in any order; those outside the take don't count. */
export function shotSpans(frames: number, cuts: readonly number[]): [from: number, until: number][] {
  const starts = [0, ...new Set(cuts.filter((frame) => frame > 0 && frame < frames))].sort((a, b) => a - b);
  return starts.map((from, i) => [from, starts[i + 1] ?? frames]);
}

/** The shot in which a frame lies. @param shots in order, at least one. */
export function shotAt<T extends { from: number; until: number }>(shots: readonly T[], frame: number): T {
  return shots.find(({ until }) => frame < until) ?? shots[shots.length - 1];
}
