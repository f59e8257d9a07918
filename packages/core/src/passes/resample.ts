import { z } from 'zod';
import type { Motion } from '../motion/motion';
import type { Pass } from './pass';
import { sampledFrames, sampleEvery } from '../signal/sample-motion';

const Options = z.object({
  rate: z.number().min(1).max(240).default(30).meta({ title: 'Frame rate', unit: 'frames/s' }),
});

/** Gives the motion another frame rate at the same speed. */
export const resample: Pass<z.infer<typeof Options>> = {
  name: 'resample',
  title: 'Frame rate',
  about: 'Another number of frames in a second; the speed stays.',
  options: Options,
  timing: true,
  length: (motion, { rate }) => ({ frames: sampledFrames(motion.frames, motion.rate / rate), rate }),
  apply(motion: Motion, { rate }): Motion {
    if (rate === motion.rate) return motion;
    return sampleEvery(motion, motion.rate / rate, rate);
  },
};
