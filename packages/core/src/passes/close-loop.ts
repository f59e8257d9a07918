import { quat } from 'gl-matrix';
import { z } from 'zod';
import { motionColumns } from '../motion/columns';
import { alignSigns, type Motion } from '../motion/motion';
import { smoothStep } from '../motion/turns-from-axes';
import { sliceMotion } from '../signal/slice-motion';
import type { MotionLength, Pass } from './pass';

const Options = z.object({
  blend: z.number().min(0.03).max(3).default(0.3).meta({ title: 'Passes over in', unit: 's', step: 0.05 }),
  travels: z.boolean().default(true).meta({ title: 'Goes on travelling' }),
});

/** At least two frames stay. */
const blended = ({ frames, rate }: MotionLength, blend: number): number =>
  Math.max(0, Math.min(Math.round(blend * rate), Math.floor((frames - 2) / 2)));

/**
 * Makes a motion that can be played over and over: its last frames pass over into its first ones and are left out, so that what follows the end is the beginning. Who walks on does so from where they
 * have come to; else the last frames are brought back to where the first ones are.
 */
export const closeLoop: Pass<z.infer<typeof Options>> = {
  name: 'close-loop',
  title: 'Close the loop',
  about: 'The end passes over into the beginning, to be played over and over. Cut off the ends to one cycle before it.',
  options: Options,
  timing: true,
  length: (motion, { blend }) => ({ frames: motion.frames - blended(motion, blend), rate: motion.rate }),
  apply(motion: Motion, { blend, travels }): Motion {
    const count = blended(motion, blend);
    if (count === 0) return motion;
    const cycle = motion.frames - count;
    const out = sliceMotion(motion, 0, cycle);
    const [ends, begins] = [motionColumns(motion), motionColumns(out)];
    const [a, b]: [quat, quat] = [quat.create(), quat.create()];
    // How far a cycle travels; height always comes back.
    const way = [0, 1, 2].map((k) => (k === 1 ? 0 : motion.root[cycle * 3 + k] - motion.root[k]));
    begins.forEach(({ name, width, data }, i) => {
      const { data: source } = ends[i];
      for (let f = 0; f < count; f++) {
        const share = smoothStep(0, count, f + 0.5);
        const [at, from] = [f * width, (cycle + f) * width];
        if (width === 4) {
          quat.set(a, source[from], source[from + 1], source[from + 2], source[from + 3]);
          quat.set(b, data[at], data[at + 1], data[at + 2], data[at + 3]);
          quat.slerp(a, a, b, share);
          data.set(a, at);
          continue;
        }
        for (let k = 0; k < width; k++) {
          const end = source[from + k] - (name === 'root' ? way[k] : 0);
          data[at + k] = end + (data[at + k] - end) * share;
        }
      }
    });
    if (!travels)
      for (let f = 0; f < cycle; f++) for (let k = 0; k < 3; k++) out.root[f * 3 + k] -= (way[k] * f) / cycle;
    alignSigns(out);
    return out;
  },
};
