import { quat, vec3 } from 'gl-matrix';
import { reachFor, turnInWorld, type Limb } from '../motion/limb-ik';
import { copyMotion, emptyPose, poseAt, type Motion, type Pose } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { handleOf, handlesOf, limbOf, placeIn, type Handle } from './handles';
import { reachWithBody } from './whole-body';

/** What follows a handle: only the limb or part that it is on, or the whole body. */
export type Following = 'limb' | 'body';

/**
 * Brings a place on the body somewhere else in one frame; hands and feet keep how they are turned in the world.
 * @param motion a motion of one frame. It is left alone.
 * @param joint of the handle. @param place where it is dragged to, metres in the world.
 * @param following with `body`, trunk and hips give way where a hand or foot is dragged, and both feet and the other hand stay.
 * @throws Error when there is no such handle.
 */
export function dragPose(motion: Motion, joint: string, place: vec3, following: Following = 'limb'): Motion {
  const handle = handleOf(joint);
  const out = copyMotion(motion);
  if (handle.kind === 'root') {
    keepingFeet(out, 0, () => out.root.set(place as Float32Array, 0));
    return out;
  }
  const pose = poseAt(out, 0, emptyPose(out.skeleton));
  if (handle.kind === 'bend') bendTowards(out, pose, handle, place);
  else if (handle.kind === 'middle') swivel(out, pose, limbOf(out.skeleton, handle), place);
  else if (following === 'body') reachWithBody(out, new Map([[joint, place]]));
  else {
    const limb = limbOf(out.skeleton, handle);
    reachFor(out, pose, 0, limb, place, pose.rotations.slice(limb.end * 4, limb.end * 4 + 4));
  }
  return out;
}

/**
 * Turns the joint of a handle by a turn in the world; what hangs on it goes along, but feet stay where the hips turn.
 * @param motion a motion of one frame. It is left alone. @throws Error when there is no such handle.
 */
export function turnPose(motion: Motion, joint: string, turn: Readonly<quat>): Motion {
  const handle = handleOf(joint);
  const out = copyMotion(motion);
  const index = jointIndex(out.skeleton, handle.turns ?? joint);
  if (index < 0) return out;
  const turned = (): void => {
    const pose = poseAt(out, 0, emptyPose(out.skeleton));
    turnInWorld(out, 0, index, pose.rotations, out.skeleton.joints[index].parent * 4, turn);
  };
  if (handle.kind === 'root') keepingFeet(out, 0, turned);
  else turned();
  return out;
}

/** Does something to a frame of a motion, in place, and brings both feet back to where they were. */
export function keepingFeet(motion: Motion, frame: number, change: () => void): void {
  const pose = poseAt(motion, frame, emptyPose(motion.skeleton));
  const legs = handlesOf(motion.skeleton)
    .filter(({ kind, joint }) => kind === 'end' && joint.endsWith('Foot'))
    .map((handle) => limbOf(motion.skeleton, handle));
  const feet = legs.map(({ end }) => ({
    place: placeIn(pose, end),
    turn: pose.rotations.slice(end * 4, end * 4 + 4),
  }));
  change();
  legs.forEach((leg, i) => {
    poseAt(motion, frame, pose);
    reachFor(motion, pose, frame, leg, feet[i].place, feet[i].turn);
  });
}

/** Rounds in which a bend comes near the place: each joint takes its share of what is left. */
const BEND_ROUNDS = 6;

/** Bends joints in a row, each by its share, so that the handle comes as near to the place as its distance lets it. */
function bendTowards(motion: Motion, pose: Pose, { joint, joints }: Handle, place: vec3): void {
  const { skeleton } = motion;
  const end = jointIndex(skeleton, joint);
  const turn: quat = [0, 0, 0, 1];
  for (let round = 0; round < BEND_ROUNDS; round++) {
    joints.forEach((name, i) => {
      const index = jointIndex(skeleton, name);
      poseAt(motion, 0, pose);
      const from = placeIn(pose, index);
      const [now, wanted] = [placeIn(pose, end), place].map((one) => {
        const way = vec3.subtract(vec3.create(), one, from);
        return vec3.normalize(way, way);
      });
      quat.rotationTo(turn, now, wanted);
      quat.slerp(turn, [0, 0, 0, 1], turn, 1 / (joints.length - i));
      turnInWorld(motion, 0, index, pose.rotations, skeleton.joints[index].parent * 4, turn);
    });
  }
}

/** Turns a limb about the line between its ends, so that its middle joint points at the place. */
function swivel(motion: Motion, pose: Pose, limb: Limb, place: vec3): void {
  const [upper, middle, end] = [limb.upper, limb.lower, limb.end].map((joint) => placeIn(pose, joint));
  const axis = vec3.subtract(vec3.create(), end, upper);
  if (vec3.length(axis) < 1e-6) return;
  vec3.normalize(axis, axis);
  const [now, wanted] = [middle, place].map((one) => {
    const way = vec3.subtract(vec3.create(), one, upper);
    return vec3.scaleAndAdd(way, way, axis, -vec3.dot(way, axis));
  });
  // Neither a straight limb nor a place on the line tells a way to turn.
  if (vec3.length(now) < 1e-4 || vec3.length(wanted) < 1e-4) return;
  const across = vec3.cross(vec3.create(), now, wanted);
  const angle = Math.atan2(vec3.dot(across, axis), vec3.dot(now, wanted));
  const turn = quat.setAxisAngle(quat.create(), axis, angle);
  const endTurn = pose.rotations.slice(limb.end * 4, limb.end * 4 + 4);
  turnInWorld(motion, 0, limb.upper, pose.rotations, motion.skeleton.joints[limb.upper].parent * 4, turn);
  poseAt(motion, 0, pose);
  reachFor(motion, pose, 0, limb, end, endTurn);
}
