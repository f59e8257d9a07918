import type { Judge } from '../judge';
import { spanOfLook } from '../looks';

/** Cuts within a clip. */
export const cuts: Judge = {
  kind: 'cuts',
  title: 'One shot',
  badness: (looks) =>
    looks.at.map((_, i) => {
      const [from, until] = spanOfLook(looks, i);
      return looks.cuts.some((cut) => cut >= from && cut < until) ? 0.6 : 0;
    }),
  find: ({ cuts: places, rate }) => {
    if (places.length === 0) return [];
    const [first] = places;
    const at = `${(first / rate).toFixed(1)} s`;
    return [
      {
        kind: 'cuts',
        severity: Math.min(0.5, 0.25 + 0.05 * places.length),
        from: first,
        until: first + 1,
        says:
          places.length === 1
            ? `The clip has a cut at ${at}.`
            : `The clip has ${places.length} cuts, the first at ${at}.`,
        advice: 'Mark a take for each shot: what lies beyond a cut can only be guessed at.',
      },
    ];
  },
};
