import { between, ofWhole, type Judge } from '../judge';
import type { Looks } from '../looks';

/** Frames a second that are enough for acting, and with which fast moves are lost. */
const ENOUGH = 23;
const TOO_FEW = 10;

/** Moments a second: doubled frames show none of their own. */
const usableRate = ({ rate, doubled }: Looks): number => rate * (1 - (doubled ?? 0));

/** Too few moments a second. */
export const rate: Judge = {
  kind: 'rate',
  title: 'Frame rate',
  badness: (looks) => looks.at.map(() => between(usableRate(looks), ENOUGH, TOO_FEW)),
  find: (looks) => {
    const usable = usableRate(looks);
    const badness = between(usable, ENOUGH, TOO_FEW) ?? 0;
    if (badness < 0.15) return [];
    const stated = Math.round(looks.rate);
    const says =
      usable < 0.9 * looks.rate
        ? `Of ${stated} frames a second only ${Math.round(usable)} show a moment of their own; the others are doubled.`
        : `The clip has only ${stated} frames a second.`;
    const advice = 'Film with 30 frames a second or more; 60 for fights and dances.';
    return [ofWhole('rate', looks, 0.25 + 0.35 * badness, says, advice)];
  },
};
