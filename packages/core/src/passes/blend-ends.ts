import { quat } from 'gl-matrix';
import { z } from 'zod';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { standEasy } from '../motion/stand-easy';
import { smoothStep } from '../motion/turns-from-axes';
import { sliceMotion } from '../signal/slice-motion';
import { usualFacing } from '../signal/usual';
import type { Pass } from './pass';

const Options = z.object({
  in: z.number().min(0).max(5).default(0.5).meta({ title: 'Comes in over', unit: 's', step: 0.1 }),
  out: z.number().min(0).max(5).default(0.5).meta({ title: 'Goes out over', unit: 's', step: 0.1 }),
});

/** Somebody who stands easy where the motion is in a frame, facing the same way, with a face at rest: a motion of one frame. */
function standingAt(motion: Motion, frame: number): Motion {
  const stand = standEasy(motion.skeleton, motion.rate, usualFacing(sliceMotion(motion, frame, frame + 1)));
  for (const k of [0, 2]) stand.root[k] = motion.root[frame * 3 + k];
  return stand;
}

/** Begins with somebody who stands easy, and ends so: for motions that others are to follow on. */
export const blendEnds: Pass<z.infer<typeof Options>> = {
  name: 'blend-ends',
  title: 'Blend in and out',
  about: 'Begins and ends with somebody who stands easy where the motion begins and ends. The length stays.',
  options: Options,
  timing: true,
  length: ({ frames, rate }) => ({ frames, rate }),
  apply(motion: Motion, options): Motion {
    const { frames, rate, skeleton } = motion;
    if (frames === 0) return motion;
    const out = copyMotion(motion);
    const [turn, own]: [quat, quat] = [quat.create(), quat.create()];
    for (const [seconds, edge] of [
      [options.in, 0],
      [options.out, frames - 1],
    ] as const) {
      const count = Math.min(Math.round(seconds * rate), frames - 1);
      if (count === 0) continue;
      const stand = standingAt(motion, edge);
      for (let i = 0; i <= count; i++) {
        const frame = edge === 0 ? i : edge - i;
        const share = smoothStep(0, count, i);
        for (let joint = 0; joint < skeleton.joints.length; joint++) {
          quat.slerp(turn, readRotation(stand, joint, 0, turn), readRotation(out, joint, frame, own), share);
          writeRotation(out, joint, frame, turn);
        }
        for (let k = 0; k < 3; k++)
          out.root[frame * 3 + k] = stand.root[k] + share * (out.root[frame * 3 + k] - stand.root[k]);
        for (const { values } of out.curves) values[frame] *= share;
      }
    }
    alignSigns(out);
    return out;
  },
};
