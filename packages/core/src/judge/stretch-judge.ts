import { badStretches, medianOf, ofStretch, whenWords, type Judge } from './judge';
import type { LookColumn, Looks } from './looks';

/** A judgement about stretches of a clip in which one measured value is bad. */
export interface ValueJudge extends Pick<Judge, 'kind' | 'title' | 'badness'> {
  column: LookColumn;
  chart: { title: string; unit: string; factor?: number };
  /** 0 … 1: what it costs when it is as bad as it can be. */
  weight: number;
  /** @param value the stretch's median. @param when where in the clip. */
  says: (value: number, when: string, looks: Looks) => string;
  advice: string;
}

export const stretchJudge = ({ column, chart, weight, says, advice, ...judge }: ValueJudge): Judge => ({
  ...judge,
  chart: { column, ...chart },
  find: (looks) =>
    badStretches(looks, judge.badness(looks)).map((stretch) => {
      const value = medianOf(looks[column].slice(stretch.first, stretch.last + 1)) ?? 0;
      return ofStretch(judge.kind, stretch, weight, says(value, whenWords(stretch, looks), looks), advice);
    }),
});
