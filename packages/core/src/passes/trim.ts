import { z } from 'zod';
import type { Motion } from '../motion/motion';
import type { Pass } from './pass';
import { sampleMotion } from './sample-motion';

const Options = z.object({
  start: z.number().min(0).max(600).default(0).meta({ title: 'Off the start', unit: 's' }),
  end: z.number().min(0).max(600).default(0).meta({ title: 'Off the end', unit: 's' }),
});

/** Cuts off the ends; at least one frame stays. */
export const trim: Pass<z.infer<typeof Options>> = {
  name: 'trim',
  title: 'Cut off the ends',
  about: 'Takes seconds off the start and the end.',
  options: Options,
  timing: true,
  apply(motion: Motion, { start, end }): Motion {
    const first = Math.min(motion.frames - 1, Math.round(start * motion.rate));
    const count = Math.max(1, motion.frames - first - Math.round(end * motion.rate));
    if (first === 0 && count === motion.frames) return motion;
    return sampleMotion(
      motion,
      Float64Array.from({ length: count }, (_, i) => first + i),
      motion.rate,
    );
  },
};
