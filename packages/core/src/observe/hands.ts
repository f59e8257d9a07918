import { FINGERS, type Side } from '../motion/humanoid';

/**
 * The published topology of the hand network: the wrist, then for each finger from the palm outwards
 * four points, the last one the tip.
 */
export const HAND_MARK_COUNT = 21;
/** Wrist and knuckles, index to little finger, among the marks. */
export const WRIST = 0;
export const KNUCKLES = [5, 9, 13, 17] as const;

/** Pairs of marks that are joined by a line. */
export const HAND_LINES: readonly (readonly [number, number])[] = [
  [0, 1],
  [0, 5],
  [0, 17],
  [5, 9],
  [9, 13],
  [13, 17],
  ...FINGERS.flatMap((_, f) => [1, 2, 3].map((n) => [f * 4 + n, f * 4 + n + 1] as const)),
];

/** Columns of all frames. A frame in which the hand was not seen has presence 0 and NaN marks. */
export interface HandObservations {
  /** frames × 21 × 2, pixels of the upright picture. */
  readonly marks: Float32Array;
  /** frames × 21 × 3, metres round the hand's middle, +X right in the picture, +Y up, +Z to the camera. */
  readonly world: Float32Array;
  /** frames, 0 … 1. */
  readonly presence: Float32Array;
}

export type BothHands = Readonly<Record<Side, HandObservations>>;

export function emptyHandObservations(frames: number): HandObservations {
  return {
    marks: new Float32Array(frames * HAND_MARK_COUNT * 2).fill(NaN),
    world: new Float32Array(frames * HAND_MARK_COUNT * 3).fill(NaN),
    presence: new Float32Array(frames),
  };
}
