import { runSmallNet } from '../learned/small-net';
import type { Side } from '../motion/humanoid';
import { FINGER_ANGLES, HAND_ANGLES, SPREAD } from './finger-turns';
import { handFeatures, type SeenHand } from './hand-features';
import { LEARNED_FINGERS } from './learned-fingers';
import type { HandReading } from './read-hand';

const degrees = (angle: number): number => (angle * Math.PI) / 180;

/** Least and most of the bends and the spread of the thumb and of a finger, degrees, rounded from usual ranges of motion. */
const THUMB_LIMITS = [
  [-25, -15, -20, -20],
  [45, 60, 75, 65],
] as const;
const FINGER_LIMITS = [
  [-25, -3, -5, -25],
  [92, 112, 82, 25],
] as const;

/**
 * Finger angles of a hand, from the network's points by a small network that has learned what these get wrong (`./run train --hands`): open hands that
 * are read as bent, fists as half open, fingers that are hidden.
 * @param reading the hand as its points stand, where it was read already.
 * @returns `HAND_ANGLES`, radians, within what fingers can do.
 */
export function learnedAngles(hand: SeenHand, frame: number, side: Side, reading?: HandReading): Float64Array {
  const out = runSmallNet(LEARNED_FINGERS, handFeatures(hand, frame, side, reading), new Float64Array(HAND_ANGLES));
  for (let i = 0; i < HAND_ANGLES; i++) {
    const [least, most] = i < FINGER_ANGLES ? THUMB_LIMITS : FINGER_LIMITS;
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
