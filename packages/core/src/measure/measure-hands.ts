import { quat } from 'gl-matrix';
import type { PinholeCamera } from '../camera/pinhole';
import { handPoseOf, wholeBend } from '../hands/finger-turns';
import { FINGERS, SIDES, type Side } from '../motion/humanoid';
import { nearestShape } from '../hands/hand-shapes';
import { angleBetween } from '../hands/palm-course';
import { emptyPose, poseAt, readRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { correlation } from './correlation';
import type { Truth } from './truth';

/** The local turn of a joint in a frame of a truth file. */
function turnOf(truth: Truth, frame: number, joint: number): quat {
  return truth.rotations[frame].slice(joint * 4, joint * 4 + 4) as quat;
}

/** True finger angles of a hand in a frame, radians (`HAND_ANGLES`). */
export function trueHandPose(truth: Truth, frame: number, side: Side): Float64Array {
  return handPoseOf(side, (bone) => turnOf(truth, frame, truth.joints.indexOf(bone)));
}

/** The turn of a joint in the world in a frame of a truth file. */
export function trueWorldTurn(truth: Truth, frame: number, joint: number): quat {
  let turn: quat = [0, 0, 0, 1];
  for (let at = joint; at >= 0; at = truth.parents[at])
    turn = quat.multiply([0, 0, 0, 1], turnOf(truth, frame, at), turn);
  return turn;
}

/** A hand whose angles are this near to a ready shape's shows it, radians. */
const SHOWS = 0.05;

/** How well hands were solved. */
export interface HandFigures {
  /** For each finger: how its whole bend goes with the truth (Pearson), and how far it is off on average, radians. */
  correlation: number[];
  error: number[];
  /** How far palms are turned off, radians: the median, and the share that is off by more than 90°. */
  palm: number;
  flipped: number;
  /** Shake of all bends: second differences against those of the truth. */
  jerk: number;
  /** The share of frames that truly show a ready shape in which that shape was told. */
  shapes: number;
  /** Frames of hands that were compared. */
  frames: number;
}

/**
 * Compares the hands of a solved motion with the truth. Palms are compared as they are turned in the view of each clip's own camera,
 * so that how well the body's world was found does not count.
 * @param seen whether a hand counts in a frame.
 * @param camera the solved one.
 */
export function measureHands(
  motion: Motion,
  truth: Truth,
  seen: (side: Side, frame: number) => boolean,
  camera: PinholeCamera,
): HandFigures {
  const told: number[][] = FINGERS.map(() => []);
  const real: number[][] = FINGERS.map(() => []);
  const palms: number[] = [];
  const shapes: boolean[] = [];
  let [shake, trueShake] = [0, 0];
  const pose = emptyPose(motion.skeleton);
  const [ownView, trueView] = [camera.axes, truth.camera.axes].map(viewOf);
  for (const side of SIDES) {
    const own: Float64Array[] = [];
    const hand = jointIndex(motion.skeleton, `${side}Hand`);
    for (let frame = 0; frame < Math.min(motion.frames, truth.frames); frame++) {
      own.push(
        handPoseOf(side, (bone) => readRotation(motion, jointIndex(motion.skeleton, bone), frame, [0, 0, 0, 1])),
      );
      if (!seen(side, frame)) continue;
      const right = trueHandPose(truth, frame, side);
      const { shape, off } = nearestShape(right);
      if (off < SHOWS) shapes.push(nearestShape(own[frame]).shape === shape);
      FINGERS.forEach((_, f) => {
        told[f].push(wholeBend(own[frame], f));
        real[f].push(wholeBend(right, f));
        if (frame > 1 && seen(side, frame - 1) && seen(side, frame - 2)) {
          const before = [1, 2].map((back) => trueHandPose(truth, frame - back, side));
          shake += Math.abs(wholeBend(own[frame], f) - 2 * wholeBend(own[frame - 1], f) + wholeBend(own[frame - 2], f));
          trueShake += Math.abs(wholeBend(right, f) - 2 * wholeBend(before[0], f) + wholeBend(before[1], f));
        }
      });
      poseAt(motion, frame, pose);
      const turned = quat.multiply(
        [0, 0, 0, 1],
        ownView,
        pose.rotations.subarray(hand * 4, hand * 4 + 4) as unknown as quat,
      );
      const wanted = quat.multiply(
        [0, 0, 0, 1],
        trueView,
        trueWorldTurn(truth, frame, truth.joints.indexOf(`${side}Hand`)),
      );
      palms.push(angleBetween(turned, wanted));
    }
  }
  palms.sort((a, b) => a - b);
  return {
    correlation: FINGERS.map((_, f) => correlation(told[f], real[f])),
    error: FINGERS.map(
      (_, f) => told[f].reduce((sum, value, i) => sum + Math.abs(value - real[f][i]), 0) / told[f].length,
    ),
    palm: palms[palms.length >> 1],
    flipped: palms.filter((off) => off > Math.PI / 2).length / palms.length,
    jerk: shake / trueShake,
    shapes: shapes.filter(Boolean).length / shapes.length,
    frames: palms.length,
  };
}

/** Turn from the world to a camera's own axes. */
function viewOf(axes: readonly number[]): quat {
  const turn = quat.fromMat3(
    [0, 0, 0, 1],
    axes as unknown as [number, number, number, number, number, number, number, number, number],
  );
  return quat.conjugate(turn, quat.normalize(turn, turn));
}
