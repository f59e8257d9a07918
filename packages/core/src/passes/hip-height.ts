import { z } from 'zod';
import { copyMotion, type Motion } from '../motion/motion';
import type { Pass } from './pass';

const Options = z.object({
  lift: z.number().min(-100).max(100).default(0).meta({ title: 'Up or down', unit: 'cm' }),
});

/** Lifts or lowers the hips; with a range and its ease, several of these correct a body that rises and falls. */
export const hipHeight: Pass<z.infer<typeof Options>> = {
  name: 'hip-height',
  title: 'Hip height',
  about: 'Lifts or lowers the whole body. Planted feet stay on the floor, the knees give way.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { lift }): Motion {
    if (lift === 0) return motion;
    const out = copyMotion(motion);
    for (let frame = 0; frame < motion.frames; frame++) out.root[frame * 3 + 1] += lift / 100;
    return out;
  },
};
