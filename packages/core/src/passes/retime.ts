import { z } from 'zod';
import type { Motion } from '../motion/motion';
import type { Pass } from './pass';
import { sampledFrames, sampleEvery } from '../signal/sample-motion';

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
  length: ({ frames, rate }, { speed }) => ({ frames: sampledFrames(frames, speed / 100), rate }),
  apply(motion: Motion, { speed }): Motion {
    if (speed === 100) return motion;
    return sampleEvery(motion, speed / 100, motion.rate);
  },
};
