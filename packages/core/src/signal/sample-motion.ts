import { quat } from 'gl-matrix';
import { withFrames } from '../motion/columns';
import { alignSigns, readRotation, writeRotation, type Motion } from '../motion/motion';
import { neverTurns } from './joint-columns';

/**
 * A motion sampled anew: turns by spherical interpolation between frames, the path by Catmull–Rom (E. Catmull,
 * R. Rom, 1974), which keeps its speed continuous, curves straight, so that none leaves its range.
 * @param times source frames, may lie between frames; held at the ends.
 */
export function sampleMotion(motion: Motion, times: ArrayLike<number>, rate: number): Motion {
  const frames = times.length;
  const joints = motion.skeleton.joints.length;
  const out = withFrames(motion, frames, rate);
  const last = motion.frames - 1;
  const still = motion.skeleton.joints.map((_, joint) => neverTurns(motion, joint));
  const [a, b]: [quat, quat] = [
    [0, 0, 0, 1],
    [0, 0, 0, 1],
  ];
  for (let f = 0; f < frames; f++) {
    const time = Math.min(last, Math.max(0, times[f]));
    const before = Math.min(last, Math.floor(time));
    const after = Math.min(last, before + 1);
    const t = time - before;
    for (let joint = 0; joint < joints; joint++) {
      readRotation(motion, joint, before, a);
      if (t > 0 && !still[joint]) quat.slerp(a, a, readRotation(motion, joint, after, b), t);
      writeRotation(out, joint, f, a);
    }
    for (let k = 0; k < 3; k++) {
      const at = (frame: number): number => motion.root[Math.min(last, Math.max(0, frame)) * 3 + k];
      const [p, q, r, s] = [at(before - 1), at(before), at(after), at(after + 1)];
      out.root[f * 3 + k] =
        t === 0 ? q : q + 0.5 * t * (r - p + t * (2 * p - 5 * q + 4 * r - s + t * (3 * (q - r) + s - p)));
    }
    out.curves.forEach(({ values }, c) => {
      const from = motion.curves[c].values;
      values[f] = from[before] + t * (from[after] - from[before]);
    });
  }
  alignSigns(out);
  return out;
}

/** How many samples at an even distance fit into a motion. @param step frames between two samples. */
export const sampledFrames = (frames: number, step: number): number =>
  Math.max(1, Math.floor((frames - 1) / step + 1e-6) + 1);

/** A motion sampled at an even distance from its first frame on. @param step frames between two samples. */
export function sampleEvery(motion: Motion, step: number, rate: number): Motion {
  const times = Float64Array.from({ length: sampledFrames(motion.frames, step) }, (_, i) => i * step);
  return sampleMotion(motion, times, rate);
}
