import { z } from 'zod';
import { lowestSole } from '../ground/floor';
import { copyMotion, type Motion } from '../motion/motion';
import { gaussianColumns } from '../signal/gaussian';
import type { Pass } from './pass';

const Options = z.object({
  path: z
    .enum(['keep', 'straighten', 'spot'])
    .default('straighten')
    .meta({ title: 'Root path', choices: { keep: 'as it is', straighten: 'without slow drift', spot: 'in place' } }),
  seconds: z.number().min(0.2).max(20).default(2).meta({ title: 'Slower than', unit: 's' }),
  rising: z.boolean().default(true).meta({ title: 'Remove rising and falling, too' }),
});

/**
 * Takes out what only a moving camera or misjudged depth brings in: a path that ends elsewhere than it began
 * (the straight line between both is taken off), everything slower than a time (a zero-phase low-pass is
 * taken off), and a body that rises and falls as a whole (the slow part of its lowest sole is taken off).
 */
export const rootDrift: Pass<z.infer<typeof Options>> = {
  name: 'root-drift',
  title: 'Root drift',
  about: 'Takes out slow drift over the floor, or all travel, and a body that rises and falls as a whole.',
  options: Options,
  apply(motion: Motion, { path, seconds, rising }): Motion {
    const out = copyMotion(motion);
    const { frames, root } = out;
    if (path !== 'keep' && frames > 1) {
      const slow = path === 'spot' ? gaussianColumns(motion.root, 3, (seconds * motion.rate) / 2) : null;
      for (const k of [0, 2]) {
        const [first, last] = [motion.root[k], motion.root[(frames - 1) * 3 + k]];
        for (let frame = 0; frame < frames; frame++) {
          const drift = slow ? slow[frame * 3 + k] - slow[k] : ((last - first) * frame) / (frames - 1);
          root[frame * 3 + k] -= drift;
        }
      }
    }
    if (rising) {
      const low = Float32Array.from(lowestSole(motion));
      const slow = gaussianColumns(runningLeast(low, Math.round(motion.rate / 2)), 1, (seconds * motion.rate) / 2);
      for (let frame = 0; frame < frames; frame++) root[frame * 3 + 1] -= slow[frame];
    }
    return out;
  },
};

/** Least value within some frames to either side: a jump, which comes down again, leaves no trace. */
function runningLeast(values: Float32Array, reach: number): Float32Array {
  return values.map((_, i) => Math.min(...values.subarray(Math.max(0, i - reach), i + reach + 1)));
}
