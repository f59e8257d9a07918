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
  find: (looks) =>
    looks.cuts.length === 0
      ? []
      : [
          {
            kind: 'cuts',
            severity: Math.min(0.5, 0.25 + 0.05 * looks.cuts.length),
            from: looks.cuts[0],
            until: looks.cuts[0] + 1,
            says:
              looks.cuts.length === 1
                ? `The clip has a cut at ${(looks.cuts[0] / looks.rate).toFixed(1)} s.`
                : `The clip has ${looks.cuts.length} cuts, the first at ${(looks.cuts[0] / looks.rate).toFixed(1)} s.`,
            advice: 'Mark a take for each shot: what lies beyond a cut can only be guessed at.',
          },
        ],
};
