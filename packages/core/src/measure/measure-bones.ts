import { SIDES } from '../motion/humanoid';
import { jointIndex, type Skeleton } from '../motion/skeleton';
import type { Truth } from './truth';

/** Limb bones whose lengths are compared: from joint to joint. */
const LIMB_BONES = [
  ['UpperArm', 'LowerArm'],
  ['LowerArm', 'Hand'],
  ['UpperLeg', 'LowerLeg'],
  ['LowerLeg', 'Foot'],
] as const;

/**
 * How far off the lengths of a skeleton's limb bones are: the mean of both sides.
 * @returns a share of the true lengths, 0 and more.
 */
export function limbLengthError(skeleton: Skeleton, truth: Truth): number {
  const errors = SIDES.flatMap((side) =>
    LIMB_BONES.map(([from, to]) => {
      const own = Math.hypot(...skeleton.joints[jointIndex(skeleton, side + to)].offset);
      const [a, b] = [from, to].map((part) => truth.joints.indexOf(side + part) * 3);
      const real = Math.hypot(...[0, 1, 2].map((k) => truth.positions[0][a + k] - truth.positions[0][b + k]));
      return Math.abs(own / real - 1);
    }),
  );
  return errors.reduce((sum, error) => sum + error, 0) / errors.length;
}
