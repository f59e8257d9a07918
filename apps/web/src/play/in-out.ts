/** Frames from … until − 1. */
export type Range = readonly [from: number, until: number];

/** The range with its in point at a frame: the out point gives way. */
export const withIn = ([, until]: Range, at: number): [number, number] => [at, Math.max(until, at + 1)];

/** The range with its out point at a frame, which is its last one: the in point gives way. */
export const withOut = ([from]: Range, at: number): [number, number] => [Math.min(from, at), at + 1];

/** The range with one end dragged to a frame: it stops at the other end, and at the clip's. */
export function withEndAt(
  [from, until]: Range,
  end: 'from' | 'until',
  frame: number,
  frames: number,
): [number, number] {
  return end === 'from' ? [Math.min(frame, until - 1), until] : [from, Math.max(from + 1, Math.min(frames, frame + 1))];
}
