import { averageProportions, humanoidSkeleton, type Proportions } from '@merry-shadow/core/motion/humanoid';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Body } from './script';

/** A made-up body's own lengths: average ones bent by the script, with the height kept. */
export function bodyProportions(body: Body): Proportions {
  const p = averageProportions(body.height);
  const thigh = p.thigh * body.legs;
  const shin = p.shin * body.legs;
  return {
    ...p,
    thigh,
    shin,
    torso: p.torso - (thigh + shin - p.thigh - p.shin) / 1.08,
    shoulderHalf: p.shoulderHalf * body.shoulders,
    hipHalf: p.hipHalf * body.hips,
    upperArm: p.upperArm * body.arms,
    foreArm: p.foreArm * body.arms,
  };
}

export function bodySkeleton(body: Body): Skeleton {
  return humanoidSkeleton(bodyProportions(body), true);
}
