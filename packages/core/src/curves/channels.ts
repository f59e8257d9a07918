import type { Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { axesOfTurn, orderOf } from './axis-turns';

/** The target of curves that is the root's place; others are joints, or curves of the motion by their names. */
export const ROOT_TARGET = 'root';
/** In a metre: what motions count in. */
export const CENTIMETRES = 100;

/** What the numbers of a target are. */
export type ChannelUnit = 'degrees' | 'centimetres' | 'share';

/** How many channels a target has in a motion, and in which unit; null where the motion has no such target. */
export function channelsOf(motion: Motion, target: string): { unit: ChannelUnit; count: 1 | 3 } | null {
  if (target === ROOT_TARGET) return { unit: 'centimetres', count: 3 };
  if (jointIndex(motion.skeleton, target) >= 0) return { unit: 'degrees', count: 3 };
  const curve = motion.curves.find(({ name }) => name === target);
  return curve ? { unit: target.startsWith('gaze.') ? 'degrees' : 'share', count: 1 } : null;
}

/**
 * The numbers of a target frame by frame: turns about x, y and z that never jump, the root's place, or a curve's values.
 * @returns for each channel one number a frame; null where the motion has no such target.
 */
export function readChannels(motion: Motion, target: string): Float64Array[] | null {
  const found = channelsOf(motion, target);
  if (!found) return null;
  const { frames } = motion;
  const out = Array.from({ length: found.count }, () => new Float64Array(frames));
  if (target === ROOT_TARGET) {
    for (let f = 0; f < frames; f++) for (let k = 0; k < 3; k++) out[k][f] = motion.root[f * 3 + k] * CENTIMETRES;
    return out;
  }
  if (found.count === 1) {
    out[0].set(motion.curves.find(({ name }) => name === target)!.values);
    return out;
  }
  const joint = jointIndex(motion.skeleton, target);
  const order = orderOf(target);
  let near: readonly number[] = [0, 0, 0];
  for (let f = 0; f < frames; f++) {
    const at = (joint * frames + f) * 4;
    const axes = axesOfTurn(motion.rotations.subarray(at, at + 4), order, near);
    for (let k = 0; k < 3; k++) out[k][f] = axes[k];
    near = axes;
  }
  return out;
}
