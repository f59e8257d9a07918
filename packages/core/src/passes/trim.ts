import { z } from 'zod';
import type { Motion } from '../motion/motion';
import type { MotionLength, Pass } from './pass';
import { sampleMotion } from '../signal/sample-motion';

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
  length: (motion, options) => ({ frames: kept(motion, options).count, rate: motion.rate }),
  apply(motion: Motion, options): Motion {
    const { first, count } = kept(motion, options);
    if (first === 0 && count === motion.frames) return motion;
    return sampleMotion(
      motion,
      Float64Array.from({ length: count }, (_, i) => first + i),
      motion.rate,
    );
  },
};

function kept(
  { frames, rate }: MotionLength,
  { start, end }: z.infer<typeof Options>,
): { first: number; count: number } {
  const first = Math.min(frames - 1, Math.round(start * rate));
  return { first, count: Math.max(1, frames - first - Math.round(end * rate)) };
}
