import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { gaussianColumns } from '../../passes/gaussian';

/** Seconds over which marks are smoothed before their speed is taken: shake is no speed. */
const CALM = 0.04;
/** A trunk's length, metres. */
const TRUNK = 0.5;
/** Speed at which accelerations may be twice as large as at rest, m/s. */
const FAST = 2;

/**
 * How freely a mark may be sped up in each frame: 1 at rest, more the faster its picture moves, so that fast
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
  return Float64Array.from({ length: frames }, (_, frame) => {
    const [a, b] = [Math.max(0, frame - 1), Math.min(frames - 1, frame + 1)];
    const way = Math.hypot(calm[b * 2] - calm[a * 2], calm[b * 2 + 1] - calm[a * 2 + 1]);
    const speed = b > a ? (way / trunk[frame]) * TRUNK * (rate / (b - a)) : 0;
    return 1 + speed / FAST;
  });
}
