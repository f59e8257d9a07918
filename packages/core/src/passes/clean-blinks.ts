import { z } from 'zod';
import { findBlinks, LID_CURVES } from '../face/blinks';
import { copyMotion, type Motion } from '../motion/motion';
import { smoothStep } from '../motion/turns-from-axes';
import type { Pass } from './pass';

const Options = z.object({
  least: z.number().min(0.1).max(0.9).default(0.35).meta({ title: 'Counts from', unit: '', step: 0.05 }),
  closing: z.number().min(0.03).max(0.3).default(0.08).meta({ title: 'Closing takes', unit: 's', step: 0.01 }),
  opening: z.number().min(0.05).max(0.5).default(0.16).meta({ title: 'Opening takes', unit: 's', step: 0.01 }),
});

/**
 * Makes whole blinks of all that are one: lids that come down by as much as is asked for close wholly, at the speed of people's lids (closing in some 80 ms,
 * opening in twice that; F. VanderWerf and others, "Eyelid movements: behavioral studies of blinking in humans under different stimulus
 * conditions", 2003), both at once; eyes that stay closed stay so. Between blinks lids do what they did.
 */
export const cleanBlinks: Pass<z.infer<typeof Options>> = {
  name: 'clean-blinks',
  title: 'Whole blinks',
  about: 'Closes the eyes wholly at each blink, at a natural speed.',
  options: Options,
  apply(motion: Motion, { least, closing, opening }): Motion {
    const out = copyMotion(motion);
    const lids = LID_CURVES.map((name) => out.curves.find((curve) => curve.name === name)?.values);
    const [left, right] = lids;
    if (!left || !right) return motion;
    const { rate, frames } = motion;
    const both = Float32Array.from(left, (value, frame) => Math.max(value, right[frame]));
    for (const { from, until, top, last } of findBlinks(both, least)) {
      const [first, end] = [top - Math.round(closing * rate), last + Math.round(opening * rate)];
      for (
        let frame = Math.max(0, Math.min(from, first));
        frame < Math.min(frames, Math.max(until, end + 1));
        frame++
      ) {
        const value =
          frame < top
            ? smoothStep(0, 1, (frame - first) / Math.max(1, top - first))
            : frame <= last
              ? 1
              : smoothStep(0, 1, (end - frame) / Math.max(1, end - last));
        for (const side of [left, right]) side[frame] = value;
      }
    }
    return out;
  },
};
