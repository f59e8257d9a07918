import { worldPositions, type Motion } from '../motion/motion';

/** A part of a motion whose end is like its beginning. */
export interface Cycle {
  /** Frames from … until − 1; the frame `until` would be like the first. */
  from: number;
  until: number;
  /** How far joints are from where they were, seen from the hips, metres in the mean. */
  apart: number;
}

/** How much a difference of speed counts against one of place, seconds. */
const SPEED_SECONDS = 0.12;
/** Frames that are compared with each other at most: longer motions are looked at in steps. */
const MOST = 600;

/**
 * Finds the part of a motion that can best be played over and over: of all pairs of frames so far apart, the one in which the joints lie and move most alike, seen from the hips.
 * @param least and @param most seconds of a cycle.
 * @returns null where the motion is too short.
 */
export function findCycle(motion: Motion, least = 0.6, most = 6): Cycle | null {
  const { frames, rate, skeleton } = motion;
  const step = Math.max(1, Math.ceil(frames / MOST));
  const joints = skeleton.joints.length;
  const places = worldPositions(motion);
  const count = Math.floor((frames - 1) / step);
  // Places seen from the hips, and how they change until the next frame that is looked at.
  const rows = new Float32Array((count + 1) * joints * 3);
  for (let i = 0; i <= count; i++)
    for (let j = 0; j < joints; j++)
      for (let k = 0; k < 3; k++)
        rows[(i * joints + j) * 3 + k] =
          places[(i * step * joints + j) * 3 + k] - (k === 1 ? 0 : places[i * step * joints * 3 + k]);
  const stride = joints * 3;
  const weight = (SPEED_SECONDS * rate) / step;
  const [near, far] = [Math.max(2, Math.round((least * rate) / step)), Math.round((most * rate) / step)];
  let best: Cycle | null = null;
  for (let a = 0; a + near < count; a++)
    for (let b = a + near; b < count && b - a <= far; b++) {
      let sum = 0;
      for (let n = 0; n < stride; n++) {
        const here = rows[b * stride + n] - rows[a * stride + n];
        const next = rows[(b + 1) * stride + n] - rows[(a + 1) * stride + n];
        sum += Math.abs(here) + weight * Math.abs(next - here);
        if (best && sum >= best.apart * joints) break;
      }
      if (!best || sum < best.apart * joints) best = { from: a * step, until: b * step, apart: sum / joints };
    }
  return best;
}
