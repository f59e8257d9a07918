import { runSmallNet, type SmallNet } from '../learned/small-net';
import type { Side } from '../motion/humanoid';
import { FINGER_ANGLES, HAND_ANGLES, SPREAD } from './finger-turns';
import { handFeatures } from './hand-features';
import { LEARNED_FINGERS } from './learned-fingers';

const degrees = (angle: number): number => (angle * Math.PI) / 180;

/** Least and most of a finger's bends and spread, radians, rounded from usual ranges of motion; the thumb's first. */
const LIMITS: readonly (readonly [readonly number[], readonly number[]])[] = [
  [
    [-25, -15, -20, -20],
    [45, 60, 75, 65],
  ],
  ...[1, 2, 3, 4].map(() => [
    [-25, -3, -5, -25],
    [92, 112, 82, 25],
  ]),
] as never;

/**
 * Finger angles of a hand, from the network's points by a small network that has learned what these get wrong (`./run train --hands`): open hands that
 * are read as bent, fists as half open, fingers that are hidden.
 * @returns `HAND_ANGLES`, radians, within what fingers can do.
 */
export function learnedAngles(
  world: ArrayLike<number>,
  at: number,
  side: Side,
  net: SmallNet = LEARNED_FINGERS,
): Float64Array {
  const out = runSmallNet(net, handFeatures(world, at, side), new Float64Array(HAND_ANGLES));
  for (let i = 0; i < HAND_ANGLES; i++) {
    const [least, most] = LIMITS[Math.floor(i / FINGER_ANGLES)];
    const part = i % FINGER_ANGLES;
    out[i] = Math.min(degrees(most[part]), Math.max(degrees(least[part]), out[i]));
  }
  // Bent fingers lie beside each other: what is read of their spread there is noise.
  for (let f = 1; f < HAND_ANGLES / FINGER_ANGLES; f++) {
    const at = f * FINGER_ANGLES;
    out[at + SPREAD] *= Math.min(1, Math.max(0, 1 - (out[at] - 0.6) / 0.8));
  }
  return out;
}
