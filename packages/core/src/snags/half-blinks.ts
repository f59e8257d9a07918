import { findBlinks, LID_CURVES } from '../face/blinks';
import { PassStep } from '../passes/run-passes';
import type { SnagDetector } from './snag';

/** Lids that come down by this much blink; those that close by less than that are half blinks. */
const LEAST = 0.4;
const WHOLE = 0.8;
/** A blink is over within so many seconds; what takes longer is narrowed eyes. */
const LONGEST = 0.45;

/** Blinks in which the eyes do not close. */
export const halfBlinks: SnagDetector = {
  kind: 'half-blink',
  title: 'Half a blink',
  find({ motion: { curves, rate, frames } }) {
    const [left, right] = LID_CURVES.map((name) => curves.find((curve) => curve.name === name)?.values);
    if (!left || !right) return [];
    const both = left.map((value, frame) => Math.max(value, right[frame]));
    return findBlinks(both, LEAST)
      .filter(({ height, from, until }) => height < WHOLE && until - from <= LONGEST * rate)
      .map(({ from, until, height }) => ({
        kind: 'half-blink' as const,
        joint: 'face',
        from,
        until,
        severity: (1 - height) * 100,
        unit: '%' as const,
        mends: [
          {
            pass: PassStep.parse({
              pass: 'clean-blinks',
              range: [Math.max(0, from - Math.round(0.1 * rate)), Math.min(frames, until + Math.round(0.2 * rate))],
              parts: ['face'],
            }),
          },
        ],
      }));
  },
};
