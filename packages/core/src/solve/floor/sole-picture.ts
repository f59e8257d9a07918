import type { SolePoint } from '../../ground/floor';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { TRUNK, trunkPixels } from '../../observe/trunk';

/** The mark that shows each sole point. */
export const SOLE_MARKS = {
  leftHeel: 'leftHeel',
  leftToe: 'leftFootIndex',
  rightHeel: 'rightHeel',
  rightToe: 'rightFootIndex',
} as const satisfies Record<SolePoint['name'], MarkName>;

/** Seconds to either side of a frame that a speed is taken from, and that unevenness is taken over. */
const SPEED_REACH = 0.1;
const UNEVEN_REACH = 0.13;
/** Unevenness is told as the speed that it fakes from frame to frame at 30 frames/s. */
const UNEVEN_RATE = 30;
const LEAST_VISIBILITY = 0.3;

/** How fast and how unevenly a mark goes over the picture, frame by frame, m/s where the body is; NaN where it is not seen. */
export interface PictureRun {
  speed: Float64Array;
  uneven: Float64Array;
}

/**
 * How a mark runs over the picture: the slope of a line through the frames around, and the mean length of its second
 * differences, which tells how much of that is the tracker's own shake. What rests on the floor stands still in the
 * picture, whatever depth the network tells of it.
 */
export function pictureRun(observations: BodyObservations, mark: MarkName): PictureRun {
  const { frames, rate, marks } = observations;
  const index = MARK[mark];
  const run = { speed: new Float64Array(frames).fill(NaN), uneven: new Float64Array(frames).fill(NaN) };
  const at = (frame: number): number => (frame * MARK_COUNT + index) * 3;
  const seen = (frame: number): boolean =>
    frame >= 0 && frame < frames && isSeen(observations, frame) && marks[at(frame) + 2] > LEAST_VISIBILITY;
  const reach = Math.max(2, Math.round(SPEED_REACH * rate));
  const wide = Math.max(2, Math.round(UNEVEN_REACH * rate));
  for (let frame = 0; frame < frames; frame++) {
    if (!seen(frame)) continue;
    const metres = TRUNK / trunkPixels(marks, frame);
    run.speed[frame] = slope(frame, reach) * metres;
    run.uneven[frame] = bends(frame, wide) * metres * UNEVEN_RATE;
  }
  return run;

  /** Pixels in a second. */
  function slope(frame: number, around: number): number {
    let [n, t1, t2, x, y, xt, yt] = [0, 0, 0, 0, 0, 0, 0];
    for (let k = frame - around; k <= frame + around; k++) {
      if (!seen(k)) continue;
      const t = (k - frame) / rate;
      n++;
      t1 += t;
      t2 += t * t;
      x += marks[at(k)];
      y += marks[at(k) + 1];
      xt += t * marks[at(k)];
      yt += t * marks[at(k) + 1];
    }
    const spread = n * t2 - t1 * t1;
    return n < 3 ? NaN : Math.hypot(n * xt - t1 * x, n * yt - t1 * y) / spread;
  }

  /** Mean length of second differences, pixels. */
  function bends(frame: number, around: number): number {
    let [sum, n] = [0, 0];
    for (let k = frame - around; k <= frame + around; k++) {
      if (!seen(k - 1) || !seen(k) || !seen(k + 1)) continue;
      const [a, b, c] = [at(k - 1), at(k), at(k + 1)];
      sum += Math.hypot(marks[a] - 2 * marks[b] + marks[c], marks[a + 1] - 2 * marks[b + 1] + marks[c + 1]);
      n++;
    }
    return n > 0 ? sum / n : NaN;
  }
}
