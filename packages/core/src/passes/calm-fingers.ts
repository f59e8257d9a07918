import { z } from 'zod';
import { fingerBones, FINGERS, SIDES } from '../motion/humanoid';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { gaussianColumns, normaliseQuaternions } from '../signal/gaussian';
import type { Pass } from './pass';

const Options = z.object({
  fingers: z.number().min(0).max(0.5).default(0.12).meta({ title: 'Fingers', unit: 's', step: 0.01 }),
  wrist: z.number().min(0).max(0.3).default(0).meta({ title: 'Wrists', unit: 's', step: 0.01 }),
});

/** Smooths fingers, and wrists if wanted, with a zero-phase Gaussian whose standard deviations are the options, in seconds. Arms keep what they do. */
export const calmFingers: Pass<z.infer<typeof Options>> = {
  name: 'calm-fingers',
  title: 'Calm the fingers',
  about: 'Takes the trembling out of fingers. Choose one hand with its parts.',
  options: Options,
  apply(motion: Motion, { fingers, wrist }): Motion {
    const out = copyMotion(motion);
    alignSigns(out);
    const length = motion.frames * 4;
    const calm = (name: string, seconds: number): void => {
      const joint = jointIndex(motion.skeleton, name);
      if (joint < 0 || seconds === 0) return;
      const column = out.rotations.subarray(joint * length, (joint + 1) * length);
      column.set(normaliseQuaternions(gaussianColumns(column, 4, seconds * motion.rate)));
    };
    for (const side of SIDES) {
      calm(`${side}Hand`, wrist);
      for (const finger of FINGERS) for (const bone of fingerBones(finger)) calm(side + finger + bone, fingers);
    }
    return out;
  },
};
