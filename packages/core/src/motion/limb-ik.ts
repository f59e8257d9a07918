import { quat, vec3 } from 'gl-matrix';
import './double-precision';
import { readRotation, writeRotation, type Motion, type Pose } from './motion';

/** A limb of two bones: the joints that turn, and the one that is brought to a place. */
export interface Limb {
  upper: number;
  lower: number;
  end: number;
}

/** Part of a limb's whole length that it is never stretched beyond: a straight knee pops. */
export const STRETCH_LIMIT = 0.999;

const at = (values: ArrayLike<number>, joint: number): vec3 => [
  values[joint * 3],
  values[joint * 3 + 1],
  values[joint * 3 + 2],
];
const turnOf = (pose: Pose, joint: number): quat => {
  const r = pose.rotations;
  return joint < 0 ? [0, 0, 0, 1] : [r[joint * 4], r[joint * 4 + 1], r[joint * 4 + 2], r[joint * 4 + 3]];
};

/** Length of a limb's two bones, metres. */
export function limbLengths({ skeleton }: Pick<Motion, 'skeleton'>, { lower, end }: Limb): [number, number] {
  const length = (joint: number): number => Math.hypot(...skeleton.joints[joint].offset);
  return [length(lower), length(end)];
}

/**
 * Brings the end of a limb to a place: the middle joint bends to the right distance (law of cosines) in the
 * plane it bends in now, then the whole limb turns the shortest way towards the place. Changes the motion in
 * place; the pose must be that of the frame and is out of date for the limb afterwards.
 * @param endTurn the world turn that the end of the limb gets.
 * @returns how far the place is out of reach, metres.
 */
export function reachFor(
  motion: Motion,
  pose: Pose,
  frame: number,
  limb: Limb,
  place: Readonly<vec3>,
  endTurn: quat,
): number {
  const { joints } = motion.skeleton;
  const [hip, knee, end] = [limb.upper, limb.lower, limb.end].map((joint) => at(pose.positions, joint));
  const [a, b] = limbLengths(motion, limb);
  const wanted = vec3.distance(hip, place);
  const reach = Math.min(wanted, (a + b) * STRETCH_LIMIT);
  const bend = (distance: number): number =>
    Math.acos(Math.max(-1, Math.min(1, (a * a + b * b - distance * distance) / (2 * a * b))));
  const change = bend(reach) - bend(vec3.distance(hip, end));
  const [up, down] = [vec3.subtract([0, 0, 0], hip, knee), vec3.subtract([0, 0, 0], end, knee)];
  const axis = vec3.cross([0, 0, 0], up, down);
  if (vec3.length(axis) < 1e-5 * a * b) {
    // A straight limb: shins fold back, forearms to the front.
    const [x, y] = joints[limb.lower].offset;
    const fold = vec3.transformQuat([0, 0, 0], [0, 0, Math.abs(y) > Math.abs(x) ? -1 : 1], turnOf(pose, limb.upper));
    vec3.cross(axis, up, fold);
  }
  vec3.normalize(axis, axis);
  const turn = quat.setAxisAngle([0, 0, 0, 1], axis, change);
  turnInWorld(motion, frame, limb.lower, turnOf(pose, joints[limb.lower].parent), turn);
  const bent = vec3.add([0, 0, 0], knee, vec3.transformQuat([0, 0, 0], down, turn));
  const swing = quat.rotationTo(
    [0, 0, 0, 1],
    vec3.normalize([0, 0, 0], vec3.subtract([0, 0, 0], bent, hip)),
    vec3.normalize([0, 0, 0], vec3.subtract([0, 0, 0], place as vec3, hip)),
  );
  turnInWorld(motion, frame, limb.upper, turnOf(pose, joints[limb.upper].parent), swing);
  // What the limb's last bone is turned to now, and from there the end's own turn.
  const above = quat.multiply(turn, swing, quat.multiply(turn, turn, turnOf(pose, limb.lower)));
  const own = quat.multiply([0, 0, 0, 1], quat.conjugate(above, above), endTurn);
  writeRotation(motion, limb.end, frame, quat.normalize(own, own));
  return wanted - reach;
}

/** Turns a joint by a turn told in world axes. @param above the world turn of its parent. */
export function turnInWorld(motion: Motion, frame: number, joint: number, above: quat, turn: quat): void {
  const local = readRotation(motion, joint, frame, [0, 0, 0, 1]);
  const own = quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], above), turn);
  quat.multiply(own, quat.multiply(own, own, above), local);
  writeRotation(motion, joint, frame, quat.normalize(own, own));
}
