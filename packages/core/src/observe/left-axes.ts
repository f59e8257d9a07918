import { gaussianColumns } from '../signal/gaussian';
import { isSeen, MARK, MARK_COUNT, type BodyObservations } from './body';

/** Seconds over which the body's left is smoothed: a body turns slower than a badly seen hip jumps. */
const CALM = 0.2;

/** Direction from the right hip to the left one, smoothed over time: frames × 3. */
export function leftAxes({ frames, rate, world, ...observations }: BodyObservations): Float32Array {
  const axes = new Float32Array(frames * 3);
  let last = [0, 0, 0];
  for (let frame = 0; frame < frames; frame++) {
    const [l, r] = [MARK.leftHip, MARK.rightHip].map((mark) => (frame * MARK_COUNT + mark) * 3);
    if (isSeen({ frames, rate, world, ...observations }, frame))
      last = [0, 1, 2].map((k) => world[l + k] - world[r + k]);
    axes.set(last, frame * 3);
  }
  return gaussianColumns(axes, 3, CALM * rate);
}
