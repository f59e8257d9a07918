import type { Side } from '../motion/humanoid';
import { FACE_MEASURES } from './face-measures';

/** An eye counts as open as it mostly is around a frame: so long before and after, seconds, at this share of what is seen there. */
const AROUND = 0.4;
const OPEN = 0.75;
/** The share that stands for open lids over the whole take, and how much of it counts as open at least: eyes that stay closed are closed. */
const OPEN_IN_TAKE = 0.8;
const LEAST_OPEN = 0.72;
/** Lids that come down by less than this are no blink, and by how much more they are closed. */
const DEAD = 0.12;
const CLOSING = 0.68;
/** Lids that differ by less than this are meaned: eyes blink together, and the farther one is seen worse. */
const TOGETHER = 0.35;

/**
 * How far each eye is closed, 0 … 1: how much its opening falls against what it is around. So eyes that are narrowed or look down are no blinks.
 * @param measures of each frame (see `measureFace`); null where no face was seen.
 */
export function lidCurves(measures: readonly (readonly number[] | null)[], rate: number): Record<Side, Float64Array> {
  const [right, left] = ['right.open', 'left.open'].map((name) => closing(measures, FACE_MEASURES.indexOf(name), rate));
  for (let frame = 0; frame < left.length; frame++) {
    if (Math.abs(left[frame] - right[frame]) >= TOGETHER) continue;
    left[frame] = right[frame] = (left[frame] + right[frame]) / 2;
  }
  return { left, right };
}

function closing(measures: readonly (readonly number[] | null)[], measure: number, rate: number): Float64Array {
  const opening = measures.map((one) => (one ? one[measure] : NaN));
  const seen = opening.filter(Number.isFinite).sort((a, b) => a - b);
  const take = seen[Math.floor(OPEN_IN_TAKE * (seen.length - 1))];
  const reach = Math.max(1, Math.round(AROUND * rate));
  return Float64Array.from(opening, (value, frame) => {
    if (!Number.isFinite(value)) return 0;
    const near = opening.slice(Math.max(0, frame - reach), frame + reach + 1).filter(Number.isFinite);
    near.sort((a, b) => a - b);
    const open = Math.max(LEAST_OPEN * take, near[Math.floor(OPEN * (near.length - 1))]);
    return Math.min(1, Math.max(0, (1 - value / open - DEAD) / CLOSING));
  });
}
