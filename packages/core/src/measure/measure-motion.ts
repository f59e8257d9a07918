import { lowestSole, solePoints, soleTrack } from '../ground/floor';
import { LIMB_JOINTS } from '../motion/humanoid';
import { worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { alignPoints, applyAlignment, meanDistance } from '../motion/align-points';
import type { Truth } from './truth';

/** How near a motion is to the truth. Lengths in millimetres. */
export interface MotionFigures {
  frames: number;
  /** Joints compared (of the twelve limb joints). */
  joints: number;
  /** Each frame aligned with rotation, shift and scale. */
  paMpjpeMm: number;
  /** Each frame with the hips brought together, no rotation. */
  rootAlignedMpjpeMm: number;
  /** The whole clip aligned once, rigidly. */
  wholeClipMpjpeMm: number;
  /** Mean jerk of the limb joints, m/s³, and its ratio to the truth's. */
  jerk: number;
  jerkRatio: number;
  /** How much lower the peaks of fast wrist movements are than the truth's, percent; NaN where the truth has none. */
  wristPeakLossPercent: number;
  /** Mean travel of a sole point between two frames in which the truth stands on it. */
  footSlideMmPerFrame: number;
  sinkingMm: number;
  hoveringMm: number;
  /** Lowest sole over the whole motion: what stands deepest in the floor. */
  lowestSoleMm: number;
  /** Largest relative deviation of a bone's length from its mean, percent. */
  boneLengthVariationPercent: number;
}

/**
 * Compares a motion with the truth, frame by frame by index.
 * @throws Error when they share no joints or the rates differ by more than one percent.
 */
export function measureMotion(motion: Motion, truth: Truth): MotionFigures {
  if (Math.abs(motion.rate / truth.rate - 1) > 0.01)
    throw new Error(
      `The motion runs at ${motion.rate} frames/s, the truth at ${truth.rate}: they can't be compared frame by frame.`,
    );
  const names = LIMB_JOINTS.filter((name) => jointIndex(motion.skeleton, name) >= 0 && truth.joints.includes(name));
  if (names.length < 4)
    throw new Error(
      'The motion and the truth share too few joints; the motion needs the humanoid bone names of VRM 1.0.',
    );
  const frames = Math.min(motion.frames, truth.frames);
  const all = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const own = new Float64Array(frames * names.length * 3);
  const real = new Float64Array(frames * names.length * 3);
  names.forEach((name, i) => {
    const a = jointIndex(motion.skeleton, name) * 3;
    const b = truth.joints.indexOf(name) * 3;
    for (let f = 0; f < frames; f++) {
      for (let k = 0; k < 3; k++) {
        own[(f * names.length + i) * 3 + k] = all[f * stride + a + k];
        real[(f * names.length + i) * 3 + k] = truth.positions[f][b + k];
      }
    }
  });
  const width = names.length * 3;
  let pa = 0;
  let rooted = 0;
  for (let f = 0; f < frames; f++) {
    const a = own.subarray(f * width, (f + 1) * width);
    const b = real.subarray(f * width, (f + 1) * width);
    pa += meanDistance(applyAlignment(alignPoints(a, b, true), a), b) / frames;
    rooted += meanDistance(relativeToHips(a, names), relativeToHips(b, names)) / frames;
  }
  const whole = alignPoints(own, real, false);
  const jerk = meanJerk(own, width, motion.rate);
  const realJerk = meanJerk(real, width, truth.rate);
  return {
    frames,
    joints: names.length,
    paMpjpeMm: pa * 1000,
    rootAlignedMpjpeMm: rooted * 1000,
    wholeClipMpjpeMm: meanDistance(applyAlignment(whole, own), real) * 1000,
    jerk,
    jerkRatio: realJerk > 0 ? jerk / realJerk : NaN,
    wristPeakLossPercent: wristPeakLoss(own, real, names, motion.rate),
    ...measureContact(motion, truth, frames),
    lowestSoleMm: Math.min(...lowestSole(motion)) * 1000,
    boneLengthVariationPercent: boneVariation(motion, all),
  };
}

/** A wrist as fast as this is in a fast gesture, m/s. */
const FAST = 1.5;
/** Seconds within which one peak of speed is the highest, and within which the other motion may have its own. */
const ONE_PEAK = 0.25;
const SAME_PEAK = 0.1;

/** Mean loss of speed at the peaks of both wrists, seen from the hips so that a path that drifts does not count. */
function wristPeakLoss(own: Float64Array, real: Float64Array, names: readonly string[], rate: number): number {
  const width = names.length * 3;
  const frames = real.length / width;
  const losses: number[] = [];
  for (const name of ['leftHand', 'rightHand']) {
    const wrist = names.indexOf(name) * 3;
    const hip = names.indexOf('leftUpperLeg') * 3;
    if (wrist < 0 || hip < 0) continue;
    const speed = (points: Float64Array, f: number): number => {
      if (f < 1 || f + 1 >= frames) return 0;
      const way = (k: number): number => {
        const at = (frame: number): number => points[frame * width + wrist + k] - points[frame * width + hip + k];
        return at(f + 1) - at(f - 1);
      };
      return (Math.hypot(way(0), way(1), way(2)) * rate) / 2;
    };
    const most = (points: Float64Array, f: number, seconds: number): number => {
      const reach = Math.max(1, Math.round(seconds * rate));
      let value = 0;
      for (let k = f - reach; k <= f + reach; k++) value = Math.max(value, speed(points, k));
      return value;
    };
    for (let f = 1; f + 1 < frames; f++) {
      const peak = speed(real, f);
      if (peak > FAST && peak === most(real, f, ONE_PEAK)) losses.push(1 - most(own, f, SAME_PEAK) / peak);
    }
  }
  return losses.length ? (losses.reduce((sum, loss) => sum + loss, 0) / losses.length) * 100 : NaN;
}

function relativeToHips(points: Float64Array, names: readonly string[]): Float64Array {
  const left = names.indexOf('leftUpperLeg') * 3;
  const right = names.indexOf('rightUpperLeg') * 3;
  return points.map(
    (value, i) => value - (left < 0 || right < 0 ? 0 : (points[left + (i % 3)] + points[right + (i % 3)]) / 2),
  );
}

/** Mean length of the third difference of all points, per second cubed. */
function meanJerk(points: Float64Array, width: number, rate: number): number {
  const frames = points.length / width;
  let sum = 0;
  let count = 0;
  for (let f = 0; f + 3 < frames; f++) {
    for (let i = 0; i < width; i += 3) {
      const d = (k: number): number =>
        points[(f + 3) * width + i + k] -
        3 * points[(f + 2) * width + i + k] +
        3 * points[(f + 1) * width + i + k] -
        points[f * width + i + k];
      sum += Math.hypot(d(0), d(1), d(2)) * rate ** 3;
      count++;
    }
  }
  return count ? sum / count : 0;
}

function measureContact(
  motion: Motion,
  truth: Truth,
  frames: number,
): Pick<MotionFigures, 'footSlideMmPerFrame' | 'sinkingMm' | 'hoveringMm'> {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  let slide = 0;
  let slides = 0;
  let sink = 0;
  let hover = 0;
  let contacts = 0;
  points.forEach((point, i) => {
    const flags = truth.contacts[point.name];
    for (let f = 0; f < frames; f++) {
      if (!flags[f]) continue;
      const at = (f * points.length + i) * 3;
      sink += Math.max(0, -track[at + 1]);
      hover += Math.max(0, track[at + 1]);
      contacts++;
      if (f + 1 >= frames || !flags[f + 1]) continue;
      const next = at + points.length * 3;
      slide += Math.hypot(track[next] - track[at], track[next + 2] - track[at + 2]);
      slides++;
    }
  });
  return {
    footSlideMmPerFrame: slides ? (slide / slides) * 1000 : NaN,
    sinkingMm: contacts ? (sink / contacts) * 1000 : NaN,
    hoveringMm: contacts ? (hover / contacts) * 1000 : NaN,
  };
}

function boneVariation(motion: Motion, positions: Float64Array): number {
  const { joints } = motion.skeleton;
  const stride = joints.length * 3;
  let worst = 0;
  joints.forEach((joint, j) => {
    if (joint.parent < 0) return;
    const lengths = Array.from({ length: motion.frames }, (_, f) => {
      const a = f * stride + j * 3;
      const b = f * stride + joint.parent * 3;
      return Math.hypot(
        positions[a] - positions[b],
        positions[a + 1] - positions[b + 1],
        positions[a + 2] - positions[b + 2],
      );
    });
    const mean = lengths.reduce((sum, value) => sum + value, 0) / lengths.length;
    if (mean < 1e-6) return;
    for (const length of lengths) worst = Math.max(worst, Math.abs(length / mean - 1) * 100);
  });
  return worst;
}
