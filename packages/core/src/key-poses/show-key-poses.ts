import { quat } from 'gl-matrix';
import { motionColumns } from '../motion/columns';
import { alignSigns, copyMotion, type Motion } from '../motion/motion';
import type { Run } from '../signal/runs';
import type { KeyPoses } from './key-poses';

/** Frames that key poses may change; null where the motion stays as it is. The first and the last pose hold to the ends of the take. */
export const keyPoseFrames = ({ poses, between }: KeyPoses, within: Run): Run | null =>
  between === 'captured' || poses.length === 0 ? null : within;

/** The pose at or before a frame and the one after it; at the ends of the take both are the same. */
function around(frames: readonly number[], frame: number): [from: number, to: number] {
  let [low, high] = [0, frames.length];
  while (high > low) {
    const middle = (low + high) >> 1;
    if (frames[middle] <= frame) low = middle + 1;
    else high = middle;
  }
  const [from, to] = [frames[low - 1], frames[low]];
  return [from ?? to, to ?? from];
}

/** Frames of the take that key poses look at for some frames of their result. @param frames of the take. */
export function posesNeeded({ poses, between }: KeyPoses, [from, until]: Run, frames: number): Run {
  const inside = posesWithin(poses, [0, frames]);
  if (between === 'captured' || inside.length === 0) return [from, until];
  return [Math.min(from, around(inside, from)[0]), Math.max(until, around(inside, until - 1)[1] + 1)];
}

/** Frames whose result may be different when some frames of the motion are. @param frames of the take. */
export function posesAffected({ poses, between }: KeyPoses, [from, until]: Run, frames: number): Run {
  const inside = posesWithin(poses, [0, frames]);
  if (between === 'captured' || inside.length === 0) return [from, until];
  const before = inside.findLast((frame) => frame < from);
  const after = inside.find((frame) => frame >= until);
  return [before ?? 0, after ?? frames];
}

const posesWithin = (poses: KeyPoses['poses'], [from, until]: Run): number[] =>
  poses.map(({ frame }) => frame).filter((frame) => frame >= from && frame < until);

/**
 * Brings a motion to its key poses: what lies between two of them is the first one held, or the way from the one to the other. Ways ease out of extremes and into them,
 * and go through breakdowns without a stop.
 * @param at frame of the take that the motion begins with: poses count the take's frames. Both poses about each wanted frame have to lie in the motion.
 * @returns a new motion; the input where it stays as it is.
 */
export function showKeyPoses(motion: Motion, keyPoses: KeyPoses, at = 0): Motion {
  const { poses, between } = keyPoses;
  const frames = posesWithin(poses, [at, at + motion.frames]).map((frame) => frame - at);
  if (between === 'captured' || frames.length === 0) return motion;
  const as = new Map(poses.map((pose) => [pose.frame - at, pose.as]));
  const out = copyMotion(motion);
  const sources = motionColumns(motion);
  const targets = motionColumns(out);
  const [a, b]: [quat, quat] = [quat.create(), quat.create()];
  for (let f = 0; f < motion.frames; f++) {
    const [from, to] = around(frames, f);
    const share = between === 'held' || to === from ? 0 : (f - from) / (to - from);
    const eased = between === 'eased' ? easedWay(share, as.get(from) === 'extreme', as.get(to) === 'extreme') : share;
    sources.forEach(({ width, data }, i) => {
      const column = targets[i].data;
      if (width === 4) {
        for (let k = 0; k < 4; k++) [a[k], b[k]] = [data[from * 4 + k], data[to * 4 + k]];
        if (eased > 0) quat.slerp(a, a, b, eased);
        for (let k = 0; k < 4; k++) column[f * 4 + k] = a[k];
      } else
        for (let k = 0; k < width; k++)
          column[f * width + k] = data[from * width + k] + eased * (data[to * width + k] - data[from * width + k]);
    });
  }
  alignSigns(out);
  return out;
}

/** A share of the way that stands still at ends where the movement rests: a cubic Hermite curve, with a slope of 1 at the other ends. */
function easedWay(t: number, restsFirst: boolean, restsLast: boolean): number {
  const [first, last] = [restsFirst ? 0 : 1, restsLast ? 0 : 1];
  return (t * t * t - 2 * t * t + t) * first + (3 * t * t - 2 * t * t * t) + (t * t * t - t * t) * last;
}
