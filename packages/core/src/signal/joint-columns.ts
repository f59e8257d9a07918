import type { Motion } from '../motion/motion';

/** Angle between a joint's turns in two frames, radians. */
export function turnBetween(motion: Motion, joint: number, a: number, b: number): number {
  const r = motion.rotations;
  const i = (joint * motion.frames + a) * 4;
  const k = (joint * motion.frames + b) * 4;
  const dot = Math.abs(r[i] * r[k] + r[i + 1] * r[k + 1] + r[i + 2] * r[k + 2] + r[i + 3] * r[k + 3]);
  return 2 * Math.acos(Math.min(1, dot));
}

/** How far a joint's turn is from half way between its turns in the frames before and after, radians. */
export function offMiddle({ rotations: r, frames }: Motion, joint: number, frame: number): number {
  if (frame < 1 || frame + 1 >= frames) return 0;
  const at = (joint * frames + frame) * 4;
  const [a, b] = [at - 4, at + 4];
  const sign = r[a] * r[b] + r[a + 1] * r[b + 1] + r[a + 2] * r[b + 2] + r[a + 3] * r[b + 3] < 0 ? -1 : 1;
  let [square, dot] = [0, 0];
  for (let k = 0; k < 4; k++) {
    const middle = r[a + k] + sign * r[b + k];
    square += middle * middle;
    dot += middle * r[at + k];
  }
  return 2 * Math.acos(Math.min(1, Math.abs(dot) / (Math.sqrt(square) || 1)));
}

/** True for a joint that never turns, such as a finger that was not captured. */
export function neverTurns({ rotations, frames }: Motion, joint: number): boolean {
  const from = joint * frames * 4;
  for (let i = from + 4; i < from + frames * 4; i++) if (rotations[i] !== rotations[i - 4]) return false;
  return true;
}

/** The middle one of some values, the upper of two; 0 without any. */
export function median(values: ArrayLike<number>): number {
  const sorted = Float64Array.from(values).sort();
  return sorted.length ? sorted[sorted.length >> 1] : 0;
}
