import { averageProportions, humanoidSkeleton, type Proportions } from '@merry-shadow/core/motion/humanoid';
import type { Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Body } from './script';

/** A made-up body's own lengths: average ones bent by the script, with the height kept. */
export function bodyProportions(body: Body): Proportions {
  const p = averageProportions(body.height);
  const [thigh, shin] = shared((p.thigh + p.shin) * body.legs, p.thigh, p.shin * body.shins);
  const [upperArm, foreArm] = shared((p.upperArm + p.foreArm) * body.arms, p.upperArm, p.foreArm * body.foreArms);
  return {
    ...p,
    thigh,
    shin,
    torso: p.torso - (thigh + shin - p.thigh - p.shin) / 1.08 - p.head * (body.head - 1),
    shoulderHalf: p.shoulderHalf * body.shoulders,
    hipHalf: p.hipHalf * body.hips,
    upperArm,
    foreArm,
    head: p.head * body.head,
    palm: p.palm * body.hands,
  };
}

/** A limb's length shared out between two bones. */
function shared(whole: number, first: number, second: number): [number, number] {
  return [(whole * first) / (first + second), (whole * second) / (first + second)];
}

export function bodySkeleton(body: Body): Skeleton {
  const { joints } = humanoidSkeleton(bodyProportions(body), true);
  const longer = (offset: Vec): Vec => offset.map((value) => value * body.fingers) as unknown as Vec;
  return {
    joints: joints.map((joint) => {
      if (!/(Proximal|Intermediate|Distal)$/.test(joint.name)) return joint;
      const tip = joint.tip && longer(joint.tip);
      // The first bone starts at the palm, which keeps its size.
      if (joints[joint.parent].name.endsWith('Hand')) return { ...joint, ...(tip && { tip }) };
      return { ...joint, offset: longer(joint.offset), ...(tip && { tip }) };
    }),
  };
}

type Vec = readonly [number, number, number];
