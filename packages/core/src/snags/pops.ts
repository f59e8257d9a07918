import { findPops, POP_LIMITS } from '../passes/find-pops';
import { PassStep } from '../passes/run-passes';
import type { SnagDetector } from './snag';

/** Legs follow plants, which hold after all passes: only a person can tell whether a plant or a pass is at fault. */
const LEG = /(UpperLeg|LowerLeg|Foot|Toes)$/;
const bridging = (from: number, until: number): PassStep =>
  PassStep.parse({ pass: 'remove-pops', range: [from, until], ease: 0 });

/** Joints that jump away for a frame or two. */
export const pops: SnagDetector = {
  kind: 'pop',
  title: 'Pop',
  find({ motion }) {
    return findPops(motion, POP_LIMITS).map(({ joint, from, until, size }) => ({
      kind: 'pop',
      joint: joint < 0 ? 'root' : motion.skeleton.joints[joint].name,
      from,
      until,
      severity: joint < 0 ? size * 100 : (size * 180) / Math.PI,
      unit: joint < 0 ? 'cm' : '°',
      mends: joint >= 0 && LEG.test(motion.skeleton.joints[joint].name) ? [] : [{ pass: bridging(from, until) }],
    }));
  },
};
