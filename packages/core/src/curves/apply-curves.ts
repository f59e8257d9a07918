import type { quat } from 'gl-matrix';
import { z } from 'zod';
import { MOST_EASE } from '../layers/layer';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { easedShare } from '../signal/eased-share';
import { sharedRun, widenRun, type Run } from '../signal/runs';
import { axesOfTurn, orderOf, turnFromAxes } from './axis-turns';
import { CENTIMETRES, channelsOf, ROOT_TARGET } from './channels';
import { CurveCourse, CurveKeys } from './curve';

/** Keys of a joint's three axes, of the root's place, or of one curve, that stand in the place of the motion below from the first of them to the last. */
export const TargetCurves = z.object({
  /** Name of a joint, `root`, or name of a curve of the motion. */
  target: z.string().min(1).max(80),
  /** 0 leaves the motion as it is, 1 takes the curves whole. */
  strength: z.number().min(0).max(1).default(1),
  /** Frames over which they come in before the first key, and go out after the last one. */
  ease: z.number().int().min(0).max(MOST_EASE).default(6),
  /** For each channel its keys; a channel without keys is left as it is. */
  channels: z.array(CurveKeys).min(1).max(3),
});
export type TargetCurves = z.infer<typeof TargetCurves>;

/** From the first key to the last, over all channels; null without keys. */
export function keyedRun({ channels }: Pick<TargetCurves, 'channels'>): Run | null {
  const frames = channels.flatMap((keys) => (keys.length > 0 ? [keys[0].frame, keys[keys.length - 1].frame] : []));
  return frames.length > 0 ? [Math.min(...frames), Math.max(...frames) + 1] : null;
}

/** Frames of some that the curves may change. */
export function curvedFrames(curves: TargetCurves, within: Run): Run | null {
  const run = keyedRun(curves);
  return run && curves.strength > 0 ? sharedRun(widenRun(run, curves.ease), within) : null;
}

/**
 * Puts curves in the place of channels of a motion. Each channel comes in before its own first key and goes out after its last one.
 * @param at frame of the take that the motion begins with: keys count the take's frames.
 * @returns a new motion; the input where nothing changes.
 */
export function applyCurves(motion: Motion, curves: TargetCurves, at = 0): Motion {
  const run = curvedFrames(curves, [at, at + motion.frames]);
  const found = channelsOf(motion, curves.target);
  if (!run || !found) return motion;
  const out = copyMotion(motion);
  const channels = curves.channels.slice(0, found.count).map((keys) => ({
    course: new CurveCourse(keys),
    keyed: keyedRun({ channels: [keys] }),
  }));
  const curve = out.curves.find(({ name }) => name === curves.target)?.values;
  for (let frame = run[0]; frame < run[1]; frame++) {
    const shares = channels.map(({ keyed }) => (keyed ? curves.strength * easedShare(keyed, curves.ease, frame) : 0));
    if (shares.every((part) => part === 0)) continue;
    const values = channels.map(({ course }) => course.at(frame));
    const f = frame - at;
    if (curves.target === ROOT_TARGET)
      values.forEach((value, k) => lay(out.root, f * 3 + k, value / CENTIMETRES, shares[k]));
    else if (curve) lay(curve, f, values[0], shares[0]);
    else turnJoint(motion, out, curves.target, f, values, shares);
  }
  alignSigns(out);
  return out;
}

function lay(list: Float32Array, at: number, value: number, share: number): void {
  if (share > 0) list[at] += share * (value - list[at]);
}

const own: quat = [0, 0, 0, 1];

function turnJoint(
  motion: Motion,
  out: Motion,
  target: string,
  f: number,
  values: readonly number[],
  shares: readonly number[],
): void {
  const joint = jointIndex(motion.skeleton, target);
  const order = orderOf(target);
  readRotation(motion, joint, f, own);
  const axes = axesOfTurn(own, order, values);
  const keyed = axes.map((angle, k) => (shares[k] > 0 ? angle + shares[k] * (values[k] - angle) : angle));
  writeRotation(out, joint, f, turnFromAxes(keyed, order));
}
