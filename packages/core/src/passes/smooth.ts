import { z } from 'zod';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { gaussianColumns, gaussianReach, normaliseQuaternions } from '../signal/gaussian';
import { neverTurns, turnBetween } from '../signal/joint-columns';
import type { Run } from '../signal/runs';
import type { Pass } from './pass';

const Options = z.object({
  joints: z.number().min(0).max(0.3).default(0.04).meta({ title: 'Joints', unit: 's', step: 0.01 }),
  root: z.number().min(0).max(0.5).default(0.06).meta({ title: 'Root', unit: 's', step: 0.01 }),
  face: z.number().min(0).max(0.3).default(0).meta({ title: 'Face', unit: 's', step: 0.01 }),
  gestures: z.boolean().default(true).meta({ title: 'Leave fast gestures alone' }),
});

/** A joint that turns as fast as this is smoothed by half, rad/s. */
const FAST = 2.5;

/**
 * Smooths joint turns and the root path with a zero-phase Gaussian; the options are its standard
 * deviations in seconds. Turns are averaged as sign-aligned quaternions, which for the small
 * differences between neighbouring frames is the rotation mean to second order (F. L. Markley et
 * al., "Averaging quaternions", 2007). Fast gestures take part the less the faster the joint turns there,
 * by the speed of the smoothed motion, so that shake does not count as a gesture. Curves of the face have a width of their own:
 * a blink is over within a few frames.
 */
export const smooth: Pass<z.infer<typeof Options>> = {
  name: 'smooth',
  title: 'Smooth',
  about: 'Takes out shake evenly. Too much of it also calms the acting.',
  options: Options,
  reach: ({ joints, root, face }, rate) =>
    Math.max(gaussianReach(joints * rate) + 1, gaussianReach(root * rate), gaussianReach(face * rate)),
  apply(motion: Motion, options): Motion {
    const out = copyMotion(motion);
    alignSigns(out);
    const length = motion.frames * 4;
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
      if (neverTurns(out, joint)) continue;
      const column = out.rotations.subarray(joint * length, (joint + 1) * length);
      const before = column.slice();
      column.set(normaliseQuaternions(gaussianColumns(column, 4, options.joints * motion.rate)));
      const still = stillRuns(before, gaussianReach(options.joints * motion.rate));
      const keepStill = (): void => {
        for (const [from, until] of still) column.set(before.subarray(from * 4, until * 4), from * 4);
      };
      keepStill();
      if (!options.gestures || options.joints === 0) continue;
      const speeds = Float32Array.from({ length: motion.frames }, (_, frame) => {
        const [a, b] = [Math.max(0, frame - 1), Math.min(motion.frames - 1, frame + 1)];
        return b > a ? (turnBetween(out, joint, a, b) * motion.rate) / (b - a) : 0;
      });
      for (let frame = 0; frame < motion.frames; frame++) {
        const share = 1 / (1 + (speeds[frame] / FAST) ** 2);
        for (let k = frame * 4; k < frame * 4 + 4; k++) column[k] = before[k] + (column[k] - before[k]) * share;
      }
      normaliseQuaternions(column);
      keepStill();
    }
    out.root.set(gaussianColumns(out.root, 3, options.root * motion.rate));
    for (const { values } of out.curves) values.set(gaussianColumns(values, 1, options.face * motion.rate));
    return out;
  },
};

/** Stretches within which a joint does not turn as far as the smoothing reaches: there it stays as it was, to the bit. */
function stillRuns(column: Float32Array, reach: number): Run[] {
  const frames = column.length / 4;
  const turns = (frame: number): boolean => {
    const at = frame * 4;
    for (let k = at; k < at + 4; k++) if (column[k] !== column[k - 4]) return true;
    return false;
  };
  const runs: Run[] = [];
  for (let from = 0; from < frames;) {
    let until = from + 1;
    while (until < frames && !turns(until)) until++;
    const [first, end] = [from === 0 ? 0 : from + reach, until === frames ? frames : until - reach];
    if (end > first) runs.push([first, end]);
    from = until;
  }
  return runs;
}
