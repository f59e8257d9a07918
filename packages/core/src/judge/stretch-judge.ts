import { badStretches, medianOf, severityOf, whenWords, type Judge, type Stretch } from './judge';
import type { LookColumn, Looks } from './looks';

/** A judgement about stretches of a clip in which one measured value is bad. */
export interface ValueJudge extends Pick<Judge, 'kind' | 'title' | 'badness'> {
  column: LookColumn;
  chart: { title: string; unit: string; factor?: number };
  /** 0 … 1: what it costs when it is as bad as it can be. */
  weight: number;
  /** @param value the stretch's median. @param when where in the clip. */
  says: (value: number, when: string, looks: Looks) => string;
  advice: string | ((value: number) => string);
}

export function stretchJudge({ column, chart, weight, says, advice, ...judge }: ValueJudge): Judge {
  const judged = (looks: Looks, stretch: Stretch) => {
    const value = medianOf(looks[column].slice(stretch.first, stretch.last + 1)) ?? 0;
    return {
      kind: judge.kind,
      severity: severityOf(stretch, weight),
      from: stretch.from,
      until: stretch.until,
      says: says(value, whenWords(stretch, looks), looks),
      advice: typeof advice === 'string' ? advice : advice(value),
    };
  };
  return {
    ...judge,
    chart: { column, ...chart },
    find: (looks) => badStretches(looks, judge.badness(looks)).map((stretch) => judged(looks, stretch)),
  };
}
