import { rotate } from '../../motion/flat-turns';
import type { Motion } from '../../motion/motion';

/**
 * How far the spine bends against the pelvis, and how far that changes from one frame to the next at 30 frames/s, radians
 * (standard deviations). How the pelvis pitches about the hip joints moves hardly a mark; without this it would jump.
 */
export const WAIST_SIGMA = 1;
export const WAIST_STEP = 0.03;

/**
 * A part of the spine's turn against the pelvis as a rotation vector, radians.
 * @param part 0 … 2 for x, y, z in the pelvis' axes.
 * @param jacobians becomes what small turns of the spine about the world's axes change of it.
 */
export function spineBend(motion: Motion, spine: number, frame: number, part: number, jacobians: Float64Array): number {
  const { rotations, frames } = motion;
  rotate(rotations, frame * 4, part === 0 ? 1 : 0, part === 1 ? 1 : 0, part === 2 ? 1 : 0, jacobians);
  const at = (spine * frames + frame) * 4;
  return (rotations[at + 3] < 0 ? -2 : 2) * rotations[at + part];
}
