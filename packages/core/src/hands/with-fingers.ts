import { humanoidSkeleton, type Proportions } from '../motion/humanoid';
import { restMotion, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';

/** The same motion on a skeleton with fingers, which lie flat; their bones are as long as usual for the body's palm. */
export function withFingers(motion: Motion, proportions: Proportions): Motion {
  const skeleton = humanoidSkeleton(proportions, true);
  const out = restMotion(skeleton, motion.frames, motion.rate);
  out.root.set(motion.root);
  motion.skeleton.joints.forEach(({ name }, joint) => {
    const column = motion.rotations.subarray(joint * motion.frames * 4, (joint + 1) * motion.frames * 4);
    out.rotations.set(column, jointIndex(skeleton, name) * motion.frames * 4);
  });
  return { ...out, curves: motion.curves };
}
