import { findPops } from '../passes/find-pops';
import { PassStep } from '../passes/run-passes';
import type { SnagDetector } from './snag';

/** Joints that jump away for a frame or two. */
export const pops: SnagDetector = {
  kind: 'pop',
  title: 'Pop',
  find({ motion }) {
    return findPops(motion, { angle: 0.21, way: 0.04, frames: 2 }).map(({ joint, from, until, size }) => ({
      kind: 'pop',
      joint: joint < 0 ? 'root' : motion.skeleton.joints[joint].name,
      from,
      until,
      severity: joint < 0 ? size * 100 : (size * 180) / Math.PI,
      unit: joint < 0 ? 'cm' : '°',
      mend: { pass: PassStep.parse({ pass: 'remove-pops', range: [from, until], ease: 0 }) },
    }));
  },
};
