import { seededRandom } from '../random';

/** Draws that can be repeated. */
export interface Chance {
  /** 0 … 1. */
  next: () => number;
  between: (low: number, high: number) => number;
  /** From a Gaussian, cut at ±2.5 deviations. */
  around: (mean: number, deviation: number) => number;
  of: <T>(list: readonly T[]) => T;
  /** True in this share of draws. */
  maybe: (share: number) => boolean;
}

export function chance(seed: number): Chance {
  const next = seededRandom(seed);
  const between = (low: number, high: number): number => low + (high - low) * next();
  return {
    next,
    between,
    around: (mean, deviation) => {
      // Box and Muller, 1958.
      const normal = Math.sqrt(-2 * Math.log(Math.max(1e-12, next()))) * Math.cos(2 * Math.PI * next());
      return mean + deviation * Math.max(-2.5, Math.min(2.5, normal));
    },
    of: (list) => list[Math.min(list.length - 1, Math.floor(next() * list.length))],
    maybe: (share) => next() < share,
  };
}
