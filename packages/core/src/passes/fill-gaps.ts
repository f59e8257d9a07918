import { z } from 'zod';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { runsWhere, type Run } from '../signal/runs';
import { bridgeSpan, bridgeValues } from '../signal/bridge';
import type { Pass } from './pass';

const Options = z.object({
  longest: z.number().min(0.05).max(5).default(1).meta({ title: 'Longest gap', unit: 's' }),
});

/** Runs of frames in which nobody was seen. */
export const gapsOf = (bridged: Uint8Array): Run[] => runsWhere(bridged.length, (frame) => bridged[frame] !== 0);

/** Lets the motion run on through gaps with the speed it comes and leaves with, instead of straight across. */
export const fillGaps: Pass<z.infer<typeof Options>> = {
  name: 'fill-gaps',
  title: 'Fill gaps',
  about: 'Where the performer was not seen, the motion runs on with the speed it comes and leaves with.',
  options: Options,
  apply(motion: Motion, { longest }, { bridged }): Motion {
    const gaps = bridged ? gapsOf(bridged).filter(([from, until]) => until - from <= longest * motion.rate) : [];
    if (gaps.length === 0) return motion;
    const out = copyMotion(motion);
    for (const [from, until] of gaps) {
      for (let joint = -1; joint < motion.skeleton.joints.length; joint++) bridgeSpan(out, joint, from, until);
      for (const { values } of out.curves) bridgeValues(values, from, until);
    }
    alignSigns(out);
    return out;
  },
};
