import { multiply, multiplyBack, normaliseTurn, rotate, rotateBack, turnBetweenLines } from './flat-turns';
import type { Side } from './humanoid';
import type { Motion, Pose } from './motion';
import { jointIndex, type Skeleton } from './skeleton';

/** A limb of two bones: the joints that turn, and the one that is brought to a place. */
export interface Limb {
  upper: number;
  lower: number;
  end: number;
}

/** Part of a limb's whole length that it is never stretched beyond: a straight knee pops. */
export const STRETCH_LIMIT = 0.999;

/** A limb that is bent by less than this tells the plane it bends in but in part, radians. */
const TOLD_BY_BEND = 0.2;

/** The limb of a side by the names of its joints; null where the skeleton has not all of them. @param parts as in "UpperLeg", "LowerLeg", "Foot". */
export function limbOfSide(skeleton: Skeleton, side: Side, parts: readonly string[]): Limb | null {
  const [upper, lower, end] = parts.map((part) => jointIndex(skeleton, side + part));
  return Math.min(upper, lower, end) < 0 ? null : { upper, lower, end };
}

/** Length of a limb's two bones, metres. */
export function limbLengths({ skeleton }: Pick<Motion, 'skeleton'>, { lower, end }: Limb): [number, number] {
  return [boneLength(skeleton.joints[lower].offset), boneLength(skeleton.joints[end].offset)];
}

const boneLength = (offset: readonly number[]): number => Math.hypot(offset[0], offset[1], offset[2]);

const up = new Float64Array(3);
const down = new Float64Array(3);
const axis = new Float64Array(3);
const turn = new Float64Array(4);
const fold = new Float64Array(3);
const ready = new Float64Array(4);
const swing = new Float64Array(4);
const above = new Float64Array(4);
const own = new Float64Array(4);

/**
 * Brings the end of a limb to a place: the middle joint bends to the right distance (law of cosines) in the
 * plane it bends in now, or the way of its hinge where it is nearly straight, then the whole limb turns the shortest way
 * towards the place. Changes the motion in place; the pose must be that of the frame and is out of date for the limb afterwards.
 * @param endTurn the world turn that the end of the limb gets.
 * @returns how far the place is out of reach, metres.
 */
export function reachFor(
  motion: Motion,
  pose: Pose,
  frame: number,
  limb: Limb,
  place: ArrayLike<number>,
  endTurn: ArrayLike<number>,
): number {
  const { joints } = motion.skeleton;
  const { positions, rotations } = pose;
  const [hip, knee, end] = [limb.upper * 3, limb.lower * 3, limb.end * 3];
  const { offset } = joints[limb.lower];
  const [a, b] = [boneLength(offset), boneLength(joints[limb.end].offset)];
  const wanted = Math.hypot(place[0] - positions[hip], place[1] - positions[hip + 1], place[2] - positions[hip + 2]);
  const reach = Math.min(wanted, (a + b) * STRETCH_LIMIT);
  for (let k = 0; k < 3; k++) {
    up[k] = positions[hip + k] - positions[knee + k];
    down[k] = positions[end + k] - positions[knee + k];
  }
  cross(up, down, axis);
  let bend = Math.atan2(length(axis), -dot(up, down));
  const nearlyStraight = bend < TOLD_BY_BEND;
  if (nearlyStraight) {
    // A straight limb does not tell its plane: shins fold back, forearms to the front. Bent so by that much, it does.
    rotate(rotations, limb.upper * 4, 0, 0, Math.abs(offset[1]) > Math.abs(offset[0]) ? -1 : 1, fold);
    cross(up, fold, fold);
    const already = Math.atan2(dot(axis, fold) / length(fold), -dot(up, down));
    writeTurn(fold, already - TOLD_BY_BEND, ready);
    rotate(ready, 0, down[0], down[1], down[2], down);
    cross(up, down, axis);
    bend = Math.atan2(length(axis), -dot(up, down));
  }
  writeTurn(axis, bendAt(a, b, reach) - (Math.PI - bend), turn);
  rotate(turn, 0, down[0], down[1], down[2], down);
  if (nearlyStraight) multiply(turn, 0, ready, 0, turn, 0);
  turnInWorld(motion, frame, limb.lower, rotations, joints[limb.lower].parent * 4, turn);
  // From where the end is now, bent, to the place, both seen from the upper joint.
  let [bent, far] = [0, 0];
  for (let k = 0; k < 3; k++) {
    down[k] -= up[k];
    axis[k] = place[k] - positions[hip + k];
    bent += down[k] * down[k];
    far += axis[k] * axis[k];
  }
  [bent, far] = [Math.sqrt(bent) || 1, Math.sqrt(far) || 1];
  turnBetweenLines(down[0] / bent, down[1] / bent, down[2] / bent, axis[0] / far, axis[1] / far, axis[2] / far, swing);
  turnInWorld(motion, frame, limb.upper, rotations, joints[limb.upper].parent * 4, swing);
  // What the limb's last bone is turned to now, and from there the end's own turn.
  multiply(turn, 0, rotations, limb.lower * 4, above, 0);
  multiply(swing, 0, above, 0, above, 0);
  const at = (limb.end * motion.frames + frame) * 4;
  multiplyBack(above, 0, endTurn, 0, own, 0);
  normaliseTurn(own, 0);
  motion.rotations.set(own, at);
  return wanted - reach;
}

/** Fills `out` with a turn about an axis of any length. */
function writeTurn(about: Float64Array, angle: number, out: Float64Array): void {
  const part = Math.sin(angle / 2) / length(about);
  for (let k = 0; k < 3; k++) out[k] = about[k] * part;
  out[3] = Math.cos(angle / 2);
}

const length = (a: Float64Array): number => Math.hypot(a[0], a[1], a[2]);

const dot = (a: Float64Array, b: Float64Array): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Angle between two bones whose ends are so far apart, radians. */
function bendAt(a: number, b: number, distance: number): number {
  return Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - distance * distance) / (2 * a * b))));
}

function cross(a: Float64Array, b: Float64Array, out: Float64Array): void {
  const x = a[1] * b[2] - a[2] * b[1];
  const y = a[2] * b[0] - a[0] * b[2];
  out[2] = a[0] * b[1] - a[1] * b[0];
  out[0] = x;
  out[1] = y;
}

/**
 * Turns a joint by a turn told in world axes. Changes the motion in place.
 * @param above holds the world turn of the joint's parent at `at`; no parent where `at` is below 0.
 */
export function turnInWorld(
  motion: Motion,
  frame: number,
  joint: number,
  above: ArrayLike<number>,
  at: number,
  turn: ArrayLike<number>,
): void {
  const local = (joint * motion.frames + frame) * 4;
  if (at < 0) own.set(turn as Float64Array);
  else {
    // The same turn about the same axis, told in the parent's axes.
    rotateBack(above, at, turn[0], turn[1], turn[2], own);
    own[3] = turn[3];
  }
  multiply(own, 0, motion.rotations, local, own, 0);
  normaliseTurn(own, 0);
  motion.rotations.set(own, local);
}
