import { z } from 'zod';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import { bridgeSpan } from '../signal/bridge';
import { findPops } from './find-pops';
import type { Pass } from './pass';

const Options = z.object({
  angle: z.number().min(1).max(90).default(12).meta({ title: 'Smallest jump', unit: '°' }),
  way: z.number().min(0.5).max(50).default(4).meta({ title: 'Smallest jump of the hips', unit: 'cm' }),
  frames: z.number().int().min(1).max(8).default(2).meta({ title: 'Longest pop', unit: 'frames' }),
});

/** Bridges the few frames in which a joint jumps away and comes back; every other value stays as it is. */
export const removePops: Pass<z.infer<typeof Options>> = {
  name: 'remove-pops',
  title: 'Remove pops',
  about: 'Bridges the frames in which a joint jumps away and comes back. Touches nothing else.',
  options: Options,
  apply(motion: Motion, { angle, way, frames }): Motion {
    const pops = findPops(motion, { angle: (angle * Math.PI) / 180, way: way / 100, frames });
    if (pops.length === 0) return motion;
    const out = copyMotion(motion);
    for (const pop of pops) bridgeSpan(out, pop.joint, pop.from, pop.until);
    alignSigns(out);
    return out;
  },
};
