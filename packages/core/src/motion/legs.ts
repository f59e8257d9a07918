import { quat } from 'gl-matrix';
import { SIDES, type Side } from './humanoid';
import { limbOfSide, type Limb } from './limb-ik';
import { readRotation, writeRotation, type Motion } from './motion';
import { jointIndex, type Skeleton } from './skeleton';

/** A leg by its joints; `toes` is −1 where the skeleton has none. */
export interface Leg extends Limb {
  side: Side;
  toes: number;
}

/** Both legs, or those that the skeleton has. */
export const legsOf = (skeleton: Skeleton): Leg[] =>
  SIDES.flatMap((side) => {
    const limb = limbOfSide(skeleton, side, ['UpperLeg', 'LowerLeg', 'Foot']);
    return limb ? [{ ...limb, side, toes: jointIndex(skeleton, `${side}Toes`) }] : [];
  });

/** Lets legs hang straight down in a frame, facing a way whatever the hips do, so that they bend forwards when they reach. Changes the motion in place. */
export function hangLegs(motion: Motion, frame: number, legs: readonly Leg[], facing: Readonly<quat>): void {
  const hips: quat = [0, 0, 0, 1];
  readRotation(motion, 0, frame, hips);
  const upright = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], hips), facing as quat);
  for (const { upper, lower, toes } of legs) {
    writeRotation(motion, upper, frame, upright);
    writeRotation(motion, lower, frame, [0, 0, 0, 1]);
    if (toes >= 0) writeRotation(motion, toes, frame, [0, 0, 0, 1]);
  }
}
