import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { gaussianColumns } from '../../passes/gaussian';
import { TRUNK } from './look-axes';

/** Seconds over which marks are smoothed before their speed is taken: shake is no speed. */
const CALM = 0.04;
/** What accelerations may be at rest, against the usual, and the speed that adds as much again as the usual, m/s. */
export const AT_REST = 0.35;
export const FAST = 0.4;
/** A speed counts that lasts for so long to either side, seconds: a mark that jumps is no gesture. */
const LASTS = 0.035;

/**
 * How freely a mark may be sped up in each frame: little at rest, more the faster its picture moves, so that fast
 * gestures keep their peaks while what is still is held calm.
 * @param trunk length of the trunk in the picture, frame by frame, pixels.
 */
export function agilityOf(observations: BodyObservations, mark: MarkName, trunk: Float64Array): Float64Array {
  const { frames, rate, marks } = observations;
  const path = new Float32Array(frames * 2);
  for (let frame = 0; frame < frames; frame++) {
    const at = (frame * MARK_COUNT + MARK[mark]) * 3;
    for (let k = 0; k < 2; k++)
      path[frame * 2 + k] = Number.isFinite(marks[at + k]) ? marks[at + k] : path[Math.max(0, frame - 1) * 2 + k];
  }
  const calm = gaussianColumns(path, 2, CALM * rate);
  const speeds = Float64Array.from({ length: frames }, (_, frame) => {
    const [a, b] = [Math.max(0, frame - 1), Math.min(frames - 1, frame + 1)];
    const way = Math.hypot(calm[b * 2] - calm[a * 2], calm[b * 2 + 1] - calm[a * 2 + 1]);
    return b > a ? (way / trunk[frame]) * TRUNK * (rate / (b - a)) : 0;
  });
  const reach = Math.round(LASTS * rate);
  return speeds.map((_, frame) => {
    let least = Infinity;
    for (let k = Math.max(0, frame - reach); k <= Math.min(frames - 1, frame + reach); k++)
      least = Math.min(least, speeds[k]);
    return AT_REST + least / FAST;
  });
}
