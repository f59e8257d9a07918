import { gapsOf } from '../passes/fill-gaps';
import { PassStep } from '../passes/run-passes';
import type { SnagDetector } from './snag';

/** Frames in which the performer was not seen. */
export const gaps: SnagDetector = {
  kind: 'gap',
  title: 'Not seen',
  find({ motion, bridged }) {
    return gapsOf(bridged ?? new Uint8Array()).map(([from, until]) => ({
      kind: 'gap',
      joint: 'body',
      from,
      until,
      severity: (until - from) / motion.rate,
      unit: 's',
      mends: [
        {
          pass: PassStep.parse({
            pass: 'fill-gaps',
            options: { longest: Math.min(5, (until - from + 1) / motion.rate) },
            range: [from, until],
            ease: 0,
          }),
        },
      ],
    }));
  },
};
