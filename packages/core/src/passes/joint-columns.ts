import { quat } from 'gl-matrix';
import { readRotation, type Motion } from '../motion/motion';

/** Angle between a joint's turns in two frames, radians. */
export function turnBetween(motion: Motion, joint: number, a: number, b: number): number {
  const r = motion.rotations;
  const i = (joint * motion.frames + a) * 4;
  const k = (joint * motion.frames + b) * 4;
  const dot = Math.abs(r[i] * r[k] + r[i + 1] * r[k + 1] + r[i + 2] * r[k + 2] + r[i + 3] * r[k + 3]);
  return 2 * Math.acos(Math.min(1, dot));
}

/** How far a joint's turn is from half way between its turns in the frames before and after, radians. */
export function offMiddle(motion: Motion, joint: number, frame: number): number {
  const [before, after] = [frame - 1, frame + 1];
  if (before < 0 || after >= motion.frames) return 0;
  const middle = quat.slerp(
    [0, 0, 0, 1],
    readRotation(motion, joint, before, [0, 0, 0, 1]),
    readRotation(motion, joint, after, [0, 0, 0, 1]),
    0.5,
  );
  const own = readRotation(motion, joint, frame, [0, 0, 0, 1]);
  return 2 * Math.acos(Math.min(1, Math.abs(quat.dot(middle, own))));
}

export function median(values: readonly number[] | Float64Array): number {
  const sorted = Float64Array.from(values).sort();
  return sorted.length ? sorted[sorted.length >> 1] : 0;
}
