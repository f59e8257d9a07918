import type { Truth } from '@merry-shadow/core/measure/truth';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';

/** Harmonic mean of precision and recall over all frames and sole points; NaN without contacts. */
export function contactF1({ contacts }: SolvedTake, truth: Truth): number {
  if (!contacts) return NaN;
  let [right, wrong, missed] = [0, 0, 0];
  for (const [name, real] of Object.entries(truth.contacts)) {
    contacts[name as keyof Truth['contacts']].forEach((weight, frame) => {
      if (weight > 0 && real[frame]) right++;
      else if (weight > 0) wrong++;
      else if (real[frame]) missed++;
    });
  }
  return (2 * right) / (2 * right + wrong + missed);
}
