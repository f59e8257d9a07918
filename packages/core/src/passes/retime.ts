import { z } from 'zod';
import type { Motion } from '../motion/motion';
import type { Pass } from './pass';
import { sampleMotion } from './sample-motion';

const Options = z.object({
  speed: z.number().min(10).max(1000).default(100).meta({ title: 'Speed', unit: '%' }),
});

/** Plays the motion faster or slower at the same frame rate. */
export const retime: Pass<z.infer<typeof Options>> = {
  name: 'retime',
  title: 'Faster or slower',
  about: 'Changes the speed; the frame rate stays.',
  options: Options,
  timing: true,
  apply(motion: Motion, { speed }): Motion {
    if (speed === 100) return motion;
    const step = speed / 100;
    const count = Math.max(1, Math.floor((motion.frames - 1) / step + 1e-6) + 1);
    return sampleMotion(
      motion,
      Float64Array.from({ length: count }, (_, i) => i * step),
      motion.rate,
    );
  },
};
