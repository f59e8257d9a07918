import { z } from 'zod';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { bridgeSpan } from './bridge';
import type { Pass } from './pass';

const Options = z.object({
  longest: z.number().min(0.05).max(5).default(1).meta({ title: 'Longest gap', unit: 's' }),
});

/** Runs of frames in which nobody was seen, as from … until − 1. */
export function gapsOf(bridged: Uint8Array): [from: number, until: number][] {
  const gaps: [number, number][] = [];
  for (let from = 0; from < bridged.length;) {
    let until = from;
    while (until < bridged.length && bridged[until]) until++;
    if (until > from) gaps.push([from, until]);
    from = Math.max(until, from + 1);
  }
  return gaps;
}

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
    for (const [from, until] of gaps)
      for (let joint = -1; joint < motion.skeleton.joints.length; joint++) bridgeSpan(out, joint, from, until);
    alignSigns(out);
    return out;
  },
};
