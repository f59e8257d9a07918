import { quat } from 'gl-matrix';
import '../motion/double-precision';
import { fingerBones, FINGERS, type Finger, type Side } from '../motion/humanoid';

/**
 * Angles of a finger: the bends of its three joints from the palm outwards, then its spread. All are 0 in the rest pose, where
 * fingers lie flat beside each other and the thumb points half ahead. A bend towards the palm is positive. A finger's spread turns
 * it about the palm's normal, towards the little finger's side; the thumb's brings it down across the palm (opposition).
 */
export const FINGER_ANGLES = 4;
/** Where the spread stands among a finger's angles. */
export const SPREAD = 3;
/** A hand's pose: the angles of thumb, index, middle, ring and little finger, radians. */
export type HandPose = ArrayLike<number>;
export const HAND_ANGLES = FINGERS.length * FINGER_ANGLES;

/**
 * The local turn of a finger's joint in a skeleton at rest in T-pose, palms down.
 * @param joint 0 … 2 from the palm outwards.
 * @param bend radians; @param spread radians, counts at the first joint alone.
 */
export function fingerTurn(side: Side, finger: Finger, joint: number, bend: number, spread: number): quat {
  const thumb = finger === 'Thumb';
  const turn = quat.setAxisAngle([0, 0, 0, 1], thumb ? [0, 1, 0] : [0, 0, -1], bend);
  if (joint === 0 && spread !== 0)
    quat.multiply(turn, quat.setAxisAngle([0, 0, 0, 1], thumb ? [1, 0, 0] : [0, 1, 0], spread), turn);
  return side === 'left' ? turn : [turn[0], -turn[1], -turn[2], turn[3]];
}

/** How far a finger is bent over all its joints, radians. @param finger 0 the thumb … 4 the little finger. */
export function wholeBend(pose: HandPose, finger: number): number {
  const at = finger * FINGER_ANGLES;
  return pose[at] + pose[at + 1] + pose[at + 2];
}

/** The turns of all fingers of a hand by the name of their bone. */
export function handTurns(side: Side, pose: HandPose): Map<string, quat> {
  const turns = new Map<string, quat>();
  FINGERS.forEach((finger, f) =>
    fingerBones(finger).forEach((bone, joint) => {
      const at = f * FINGER_ANGLES;
      turns.set(side + finger + bone, fingerTurn(side, finger, joint, pose[at + joint], pose[at + SPREAD]));
    }),
  );
  return turns;
}

/** The angles of a hand, from the local turns of its bones: the other way round of `handTurns`. */
export function handPoseOf(side: Side, turn: (bone: string) => quat): Float64Array {
  const s = side === 'left' ? 1 : -1;
  const pose = new Float64Array(HAND_ANGLES);
  FINGERS.forEach((finger, f) =>
    fingerBones(finger).forEach((bone, joint) => {
      const [x, y, z, w] = turn(side + finger + bone);
      const thumb = finger === 'Thumb';
      pose[f * FINGER_ANGLES + joint] = angleOfHalf(thumb ? s * y : -s * z, w);
      if (joint === 0) pose[f * FINGER_ANGLES + SPREAD] = angleOfHalf(thumb ? x : s * y, w);
    }),
  );
  return pose;
}

/** The angle of a turn from the sine and the cosine of its half, −π … π. */
function angleOfHalf(sine: number, cosine: number): number {
  const angle = 2 * Math.atan2(sine, cosine);
  return Math.atan2(Math.sin(angle), Math.cos(angle));
}
