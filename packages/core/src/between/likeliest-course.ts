import { inverted } from '../signal/solve-linear';

/** How long a body goes on as it does, and how long its joints do, seconds: the lengths of Matérn covariances. Chosen on populations, as is the noise. */
export const GOES_ON = { place: 0.5, turns: 0.4 };
/** Noise of what is known, as a part of how far people move. */
const NOISE = 3e-3;
/** Seconds beside a range that are looked at, and how many frames of them. */
const BESIDE = 0.27;
const KNOWN = 8;

/** Frames to either side of a range that a course through it depends on. */
export const courseReach = (rate: number): number => (KNOWN - 1) * stepOf(rate);

const stepOf = (rate: number): number => Math.max(1, Math.round((BESIDE * rate) / KNOWN));

/** Frames to either side of a range that a course through it is told from. @param a the frame before it. @param b the frame after it. */
export function knownFrames(a: number, b: number, frames: number, rate: number): number[] {
  const step = stepOf(rate);
  const out: number[] = [];
  for (let i = KNOWN - 1; i >= 0; i--) if (a - i * step >= 0 && a < frames) out.push(a - i * step);
  for (let i = 0; i < KNOWN; i++) if (b + i * step < frames) out.push(b + i * step);
  return out;
}

/**
 * What each frame of a range takes of known frames beside it: the best linear prediction of a course with a Matérn covariance of order 5/2 and an unknown mean (ordinary kriging; N. Cressie,
 * "Statistics for Spatial Data", 1993). Speeds at the ends go on as long as movements of people do on average. The shares of a frame sum up to one.
 * @param from first frame of the range. @param until the one after the last. @param goesOn seconds, see `GOES_ON`.
 */
export function* likeliestShares(
  known: readonly number[],
  from: number,
  until: number,
  rate: number,
  goesOn: number,
): Generator<[frame: number, shares: number[]]> {
  const covariance = (seconds: number): number => matern(Math.abs(seconds) / goesOn);
  const matrix = known.map((one, i) => [
    ...known.map((other, k) => covariance((one - other) / rate) + (i === k ? NOISE * NOISE : 0)),
    1,
  ]);
  matrix.push([...known.map(() => 1), 0]);
  // The inverse serves all frames.
  const inverse = inverted(matrix);
  for (let frame = from; frame < until; frame++) {
    const near = known.map((other) => covariance((frame - other) / rate));
    yield [
      frame,
      known.map((_, i) => near.reduce((sum, value, k) => sum + value * inverse[i][k], inverse[i][known.length])),
    ];
  }
}

/** Matérn covariance of order 5/2, 1 at no distance. @param distance in its length. */
function matern(distance: number): number {
  const d = Math.sqrt(5) * distance;
  return (1 + d + (d * d) / 3) * Math.exp(-d);
}
