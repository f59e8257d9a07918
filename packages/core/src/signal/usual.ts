import type { quat } from 'gl-matrix';
import { readRotation, type Motion } from '../motion/motion';
import { median } from './joint-columns';

/** Which way the hips face most of the time, radians about +Y from +Z. */
export function usualFacing(motion: Motion): number {
  const hips: quat = [0, 0, 0, 1];
  const ways = Array.from({ length: motion.frames }, (_, frame) => {
    readRotation(motion, 0, frame, hips);
    return Math.atan2(2 * (hips[0] * hips[2] + hips[3] * hips[1]), 1 - 2 * (hips[0] ** 2 + hips[1] ** 2));
  });
  return Math.atan2(median(ways.map(Math.sin)), median(ways.map(Math.cos)));
}

/** Where the hips are most of the time along an axis, metres. @param axis 0 x, 1 y, 2 z. */
export const usualPlace = ({ root, frames }: Motion, axis: number): number =>
  median(Float64Array.from({ length: frames }, (_, frame) => root[frame * 3 + axis]));
