import type { vec3 } from 'gl-matrix';
import { finishedMotion } from '../edits/evaluate/take-evaluator';
import { alignPoints, applyAlignment, meanDistance } from '../motion/align-points';
import { LIMB_JOINTS } from '../motion/humanoid';
import { worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { HINTED_JOINTS, HINTED_MARKS, type DepthHint } from '../solve/hints/depth-hints';
import { solveTake, type SolvedFootage, type SolveOptions } from '../solve/solve-take';
import { shotAt } from '../solve/shots/shots';
import type { Truth } from './truth';

/** What a few depths bring that a person tells. Lengths in millimetres, each frame aligned with rotation, shift and scale. */
export interface HintFigures {
  /** Within half a second of the frames that were hinted, without and with hints. */
  nearMm: number;
  nearHintedMm: number;
  /** Over the whole take. */
  wholeMm: number;
  wholeHintedMm: number;
}

/** Frames that are hinted, and marks in each. */
const FRAMES = 3;
const MARKS_EACH = 2;
/** Seconds to either side that are compared, and that hinted frames lie apart at least. */
const NEAR = 0.5;
const APART = 1;

/**
 * Tells the true depths of two joints in each of the three worst frames of a take, one after the other, as a person would: of the joint that is
 * farthest off, then, when that has been solved, of the one that is farthest off now.
 */
export function measureHints(footage: SolvedFootage, truth: Truth, options: SolveOptions): HintFigures {
  let solved = solveTake(footage, options);
  const before = frameErrors(finishedMotion(solved), truth);
  const frames = worstFrames(before, solved.motion.rate);
  const hints: DepthHint[] = [];
  for (let i = 0; i < MARKS_EACH; i++) {
    const motion = finishedMotion(solved);
    for (const frame of frames) {
      const told = hints.filter((hint) => hint.frame === frame).map(({ mark }) => mark);
      hints.push(worstDepth(motion, truth, frame, shotAt(solved.shots, frame).camera.axes, told));
    }
    solved = solveTake(footage, { ...options, hints });
  }
  const after = frameErrors(finishedMotion(solved), truth);
  const near = (errors: readonly number[]): number =>
    mean(errors.filter((_, i) => frames.some((frame) => Math.abs(frame - i) <= NEAR * solved.motion.rate)));
  return {
    nearMm: near(before),
    nearHintedMm: near(after),
    wholeMm: mean(before),
    wholeHintedMm: mean(after),
  };
}

/** Distance to the truth in each frame (PA-MPJPE). */
function frameErrors(motion: Motion, truth: Truth): number[] {
  const all = worldPositions(motion);
  return Array.from({ length: Math.min(motion.frames, truth.frames) }, (_, frame) => {
    const [own, real] = limbs(motion, all, truth, frame);
    return meanDistance(applyAlignment(alignPoints(own, real, true), own), real) * 1000;
  });
}

/** Places of the limb joints in a frame, of a motion and of the truth. */
function limbs(motion: Motion, all: Float64Array, truth: Truth, frame: number): [number[], number[]] {
  const stride = motion.skeleton.joints.length * 3;
  const own = LIMB_JOINTS.flatMap((name) => {
    const at = frame * stride + jointIndex(motion.skeleton, name) * 3;
    return [...all.subarray(at, at + 3)];
  });
  const real = LIMB_JOINTS.flatMap((name) => {
    const at = truth.joints.indexOf(name) * 3;
    return truth.positions[frame].slice(at, at + 3);
  });
  return [own, real];
}

function worstFrames(errors: readonly number[], rate: number): number[] {
  const worst: number[] = [];
  for (const frame of errors.map((_, i) => i).sort((a, b) => errors[b] - errors[a])) {
    if (worst.length === FRAMES) break;
    if (worst.every((other) => Math.abs(other - frame) > APART * rate)) worst.push(frame);
  }
  return worst;
}

/**
 * The depth that is farthest off, told true: by how much nearer a joint is than the hips, along the line of the camera that filmed.
 * @param told marks that have been told of already.
 */
function worstDepth(
  motion: Motion,
  truth: Truth,
  frame: number,
  solvedAxes: readonly number[],
  told: readonly string[],
): DepthHint {
  const [own, real] = limbs(motion, worldPositions(motion), truth, frame);
  const path = truth.cameraPath?.[frame];
  const axes = [path ? path.slice(9, 12) : truth.camera.axes.slice(6, 9), solvedAxes.slice(6, 9)];
  const nearer = (places: readonly number[], axis: readonly number[], joint: string): number => {
    const along = (name: string): number => {
      const at = LIMB_JOINTS.indexOf(name) * 3;
      const place: vec3 = [places[at], places[at + 1], places[at + 2]];
      return axis.reduce((sum, value, k) => sum + value * place[k], 0);
    };
    return along(joint) - (along('leftUpperLeg') + along('rightUpperLeg')) / 2;
  };
  const [{ mark, depth }] = HINTED_MARKS.filter((one) => !told.includes(one))
    .map((one) => {
      const joint = HINTED_JOINTS[one];
      const depth = nearer(real, axes[0], joint);
      return { mark: one, depth, off: Math.abs(depth - nearer(own, axes[1], joint)) };
    })
    .sort((a, b) => b.off - a.off);
  return { mark, frame, nearer: depth };
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;
