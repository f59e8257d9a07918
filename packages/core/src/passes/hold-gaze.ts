import { z } from 'zod';
import { GAZE_CURVES, lookShapes } from '../face/gaze';
import { shapeCurve } from '../face/face-shapes';
import { copyMotion, type Motion } from '../motion/motion';
import { median } from '../signal/joint-columns';
import type { Pass } from './pass';

const Options = z.object({
  still: z.number().min(0.5).max(20).default(4).meta({ title: 'Holds within', unit: '°', step: 0.5 }),
  least: z.number().min(0.03).max(1).default(0.15).meta({ title: 'For at least', unit: 's', step: 0.01 }),
});

/** Eyes leap from one place to the next within so many seconds. */
const LEAP = 0.05;

/**
 * Makes eyes look at one place after the other, as eyes do: the gaze is cut into stretches within which it strays by less than is asked for (dispersion,
 * D. Salvucci and J. Goldberg, "Identifying fixations and saccades in eye-tracking protocols", 2000); each is held at its middle, and those that are too short to be
 * looked at anything go into the one before. Between two of them the eyes leap.
 */
export const holdGaze: Pass<z.infer<typeof Options>> = {
  name: 'hold-gaze',
  title: 'Hold the gaze',
  about: 'Eyes rest on one place after the other instead of wandering and trembling.',
  options: Options,
  apply(motion: Motion, { still, least }): Motion {
    const out = copyMotion(motion);
    const [across, up] = [GAZE_CURVES.across, GAZE_CURVES.up].map(
      (name) => out.curves.find((curve) => curve.name === name)?.values,
    );
    if (!across || !up) return motion;
    const held = heldStretches(across, up, (still * Math.PI) / 180, Math.max(1, Math.round(least * motion.rate)));
    const leap = Math.max(1, Math.round(LEAP * motion.rate));
    for (const values of [across, up]) {
      const before = values.slice();
      let last: number | null = null;
      for (const [from, until] of held) {
        const middle = median(before.subarray(from, until));
        for (let frame = from; frame < until; frame++) {
          const part = last === null ? 1 : Math.min(1, (frame - from + 1) / leap);
          values[frame] = (last ?? middle) + part * (middle - (last ?? middle));
        }
        last = middle;
      }
    }
    for (const [shape, values] of lookShapes(across, up))
      out.curves.find(({ name }) => name === shapeCurve(shape))?.values.set(values);
    return out;
  },
};

function heldStretches(across: Float32Array, up: Float32Array, still: number, least: number): [number, number][] {
  const stretches: [number, number][] = [];
  const frames = across.length;
  for (let from = 0; from < frames;) {
    let until = from + 1;
    const [low, high] = [
      [across[from], up[from]],
      [across[from], up[from]],
    ];
    for (; until < frames; until++) {
      const place = [across[until], up[until]];
      if (place.some((value, k) => Math.max(high[k], value) - Math.min(low[k], value) > 2 * still)) break;
      place.forEach((value, k) => {
        low[k] = Math.min(low[k], value);
        high[k] = Math.max(high[k], value);
      });
    }
    const before = stretches.at(-1);
    if (before && until - from < least) before[1] = until;
    else stretches.push([from, until]);
    from = until;
  }
  return stretches;
}
