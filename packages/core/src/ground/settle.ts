import { copyMotion, type Motion } from '../motion/motion';
import { lowestSole } from './floor';

/**
 * Brings the lowest sole to the floor: the running minimum over a window is taken off the root's
 * height, smoothed, so that slow rising and sinking goes while steps and jumps stay.
 * @param seconds width of the window; a jump must be shorter.
 */
export function settleOnFloor(motion: Motion, seconds = 1): Motion {
  const low = lowestSole(motion);
  const half = Math.max(1, Math.round((seconds * motion.rate) / 2));
  const floor = new Float64Array(motion.frames);
  for (let frame = 0; frame < motion.frames; frame++) {
    let least = Infinity;
    for (let k = Math.max(0, frame - half); k <= Math.min(motion.frames - 1, frame + half); k++)
      least = Math.min(least, low[k]);
    floor[frame] = least;
  }
  const out = copyMotion(motion);
  for (let frame = 0; frame < motion.frames; frame++) {
    let sum = 0;
    let count = 0;
    for (let k = Math.max(0, frame - half); k <= Math.min(motion.frames - 1, frame + half); k++) {
      sum += floor[k];
      count++;
    }
    out.root[frame * 3 + 1] -= sum / count;
  }
  return out;
}
