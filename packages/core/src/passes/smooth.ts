import { z } from 'zod';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { gaussianColumns, normaliseQuaternions } from './gaussian';
import type { Pass } from './pass';

const Options = z.object({
  joints: z.number().min(0).max(0.3).default(0.04).meta({ title: 'Joints', unit: 's' }),
  root: z.number().min(0).max(0.5).default(0.06).meta({ title: 'Path of the hips', unit: 's' }),
});

/**
 * Smooths joint turns and the root path with a zero-phase Gaussian; the options are its standard
 * deviations in seconds. Turns are averaged as sign-aligned quaternions, which for the small
 * differences between neighbouring frames is the rotation mean to second order (F. L. Markley et
 * al., "Averaging quaternions", 2007).
 */
export const smooth: Pass<z.infer<typeof Options>> = {
  name: 'smooth',
  title: 'Smooth',
  about: 'Takes out shake evenly. Too much of it also calms the acting.',
  options: Options,
  apply(motion: Motion, options): Motion {
    const out = copyMotion(motion);
    alignSigns(out);
    const length = motion.frames * 4;
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
      const column = out.rotations.subarray(joint * length, (joint + 1) * length);
      column.set(normaliseQuaternions(gaussianColumns(column, 4, options.joints * motion.rate)));
    }
    out.root.set(gaussianColumns(out.root, 3, options.root * motion.rate));
    return out;
  },
};
