import { quat } from 'gl-matrix';
import { regenerate } from '../between/regenerate';
import { LIMB_JOINTS } from '../motion/humanoid';
import { copyMotion, readRotation, worldPositions, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { bridgeSpan } from '../signal/bridge';

/** How far a motion that was made anew over a range lies from the true one, millimetres, and how two simple ways do. */
export interface BetweenFigures {
  /** Seconds that were cut out. */
  seconds: number;
  ranges: number;
  straightMm: number;
  splineMm: number;
  madeAnewMm: number;
}

/** Seconds of the ranges that are cut out, and from one to the next. */
const LENGTHS = [0.3, 0.7, 1.5];
const EVERY = 1;
const FIRST = 0.5;

/** Cuts ranges out of a true motion and makes them anew; distances are means over the limb joints in the world. */
export function measureBetween(motion: Motion): BetweenFigures[] {
  const { rate, frames, skeleton } = motion;
  const real = worldPositions(motion);
  const stride = skeleton.joints.length * 3;
  const joints = LIMB_JOINTS.map((name) => jointIndex(skeleton, name) * 3).filter((at) => at >= 0);
  const off = (made: Motion, from: number, until: number): number => {
    const places = worldPositions(made);
    let sum = 0;
    for (let frame = from; frame < until; frame++)
      for (const joint of joints) {
        const at = frame * stride + joint;
        sum += Math.hypot(places[at] - real[at], places[at + 1] - real[at + 1], places[at + 2] - real[at + 2]);
      }
    return (sum / joints.length / (until - from)) * 1000;
  };
  return LENGTHS.map((seconds) => {
    const long = Math.round(seconds * rate);
    const figures: BetweenFigures = { seconds, ranges: 0, straightMm: 0, splineMm: 0, madeAnewMm: 0 };
    for (let from = Math.round(FIRST * rate); from + long + 5 < frames; from += Math.round(EVERY * rate)) {
      const until = from + long;
      figures.ranges++;
      figures.straightMm += off(straight(motion, from, until), from, until);
      figures.splineMm += off(spline(motion, from, until), from, until);
      figures.madeAnewMm += off(regenerate(motion, from, until), from, until);
    }
    const each = (sum: number): number => sum / Math.max(1, figures.ranges);
    return {
      ...figures,
      straightMm: each(figures.straightMm),
      splineMm: each(figures.splineMm),
      madeAnewMm: each(figures.madeAnewMm),
    };
  });
}

function straight(motion: Motion, from: number, until: number): Motion {
  const out = copyMotion(motion);
  const [a, b] = [from - 1, until];
  for (let frame = from; frame < until; frame++) {
    const t = (frame - a) / (b - a);
    for (let k = 0; k < 3; k++)
      out.root[frame * 3 + k] = motion.root[a * 3 + k] + (motion.root[b * 3 + k] - motion.root[a * 3 + k]) * t;
    motion.skeleton.joints.forEach((_, joint) => {
      const [one, two] = [a, b].map((at) => readRotation(motion, joint, at, quat.create()));
      writeRotation(out, joint, frame, quat.slerp(one, one, two, t));
    });
  }
  return out;
}

/** Cubic pieces that go on with the speeds at both ends. */
function spline(motion: Motion, from: number, until: number): Motion {
  const out = copyMotion(motion);
  for (let joint = -1; joint < motion.skeleton.joints.length; joint++) bridgeSpan(out, joint, from, until);
  return out;
}
