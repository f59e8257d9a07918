import { gaussianColumns } from '../signal/gaussian';

/** The part of a hand's turn about the forearm that the forearm itself makes. */
const SHARE = 0.5;
/** How far a hand turns either way at ease, radians, and what a second beyond that costs against a radian that is turned. */
const AT_EASE = 1.6;
const BEYOND = 1.5;
/** Whole turns by which what is read, −π to π, may be meant otherwise. */
const WHOLE = [0, -1, 1] as const;
/** A forearm takes so long to turn over, seconds (standard deviation). */
const TAKES = 0.1;

/**
 * How far a forearm turns with its hand in each frame. A hand that turns on over the back is read as turned by −π where it was π before: its forearm must
 * not turn over in that one frame. So whole turns are added where that is the least way for all frames together
 * (dynamic programming, A. Viterbi, 1967), and where a forearm has to come back, it takes its time.
 * @param read how far the hand is turned about the forearm, radians, −π … π.
 * @returns radians; the hand itself makes the rest.
 */
export function forearmTurns(read: ArrayLike<number>, rate: number): Float32Array {
  const frames = read.length;
  const meant = (frame: number, k: number): number => read[frame] + WHOLE[k] * 2 * Math.PI;
  const strain = (turn: number): number => (BEYOND / rate) * Math.max(0, Math.abs(turn) - AT_EASE) ** 2;
  let best = WHOLE.map((_, k) => (frames > 0 ? strain(meant(0, k)) : 0));
  const from: number[][] = [];
  for (let frame = 1; frame < frames; frame++) {
    const ways = WHOLE.map((_, k) =>
      least(WHOLE.map((__, before) => best[before] + Math.abs(meant(frame, k) - meant(frame - 1, before)))),
    );
    from.push(ways.map(({ at }) => at));
    best = ways.map(({ value }, k) => value + strain(meant(frame, k)));
  }
  const turns = new Float32Array(frames);
  let at = least(best).at;
  for (let frame = frames - 1; frame >= 0; frame--) {
    turns[frame] = SHARE * meant(frame, at);
    at = frame > 0 ? from[frame - 1][at] : at;
  }
  return gaussianColumns(turns, 1, TAKES * rate);
}

function least(values: readonly number[]): { value: number; at: number } {
  const value = Math.min(...values);
  return { value, at: values.indexOf(value) };
}
