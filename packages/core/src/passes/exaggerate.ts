import { z } from 'zod';
import { quat } from 'gl-matrix';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { gaussianColumns, gaussianReach, normaliseQuaternions } from '../signal/gaussian';
import { neverTurns } from '../signal/joint-columns';
import type { Pass } from './pass';

const Options = z.object({
  times: z.number().min(0).max(3).default(1.3).meta({ title: 'Times', unit: '×', step: 0.05 }),
  around: z.number().min(0.2).max(3).default(0.8).meta({ title: 'About the mean of', unit: 's', step: 0.1 }),
});

/**
 * Makes gestures larger or smaller: each joint turns a factor further away from the mean of the time around (a Gaussian; slerp extrapolated), so that the
 * posture stays. Below one it calms. The root's path stays, so that feet go where they went.
 */
export const exaggerate: Pass<z.infer<typeof Options>> = {
  name: 'exaggerate',
  title: 'Larger or smaller',
  about: 'Makes gestures larger or smaller than they were acted, best for some parts and a range.',
  options: Options,
  reach: ({ around }, rate) => gaussianReach(around * rate),
  apply(motion: Motion, { times, around }): Motion {
    if (times === 1) return motion;
    const out = copyMotion(motion);
    alignSigns(out);
    const length = motion.frames * 4;
    const [mean, turn, away]: quat[] = [quat.create(), quat.create(), quat.create()];
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
      if (neverTurns(out, joint)) continue;
      const column = out.rotations.subarray(joint * length, (joint + 1) * length);
      const means = normaliseQuaternions(gaussianColumns(column, 4, around * motion.rate));
      for (let frame = 0; frame < motion.frames; frame++) {
        for (let k = 0; k < 4; k++) mean[k] = means[frame * 4 + k];
        readRotation(out, joint, frame, turn);
        quat.multiply(away, quat.conjugate(away, mean), turn);
        if (away[3] < 0) quat.scale(away, away, -1);
        quat.pow(away, quat.normalize(away, away), times);
        writeRotation(out, joint, frame, quat.normalize(turn, quat.multiply(turn, mean, away)));
      }
    }
    alignSigns(out);
    return out;
  },
};
