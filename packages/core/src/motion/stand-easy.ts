import { quat } from 'gl-matrix';
import { SIDES } from './humanoid';
import { readRotation, restMotion, writeRotation, type Motion } from './motion';
import { jointIndex, type Skeleton } from './skeleton';

/** How far arms hang from where a T-pose holds them, radians. */
const HANGING = 1.25;

/** Somebody who stands easy over the origin, arms hanging: a motion of one frame. @param rate frames a second. @param facing radians about +Y from +Z. */
export function standEasy(skeleton: Skeleton, rate: number, facing = 0): Motion {
  const stand = restMotion(skeleton, 1, rate);
  const yaw = quat.setAxisAngle(quat.create(), [0, 1, 0], facing);
  writeRotation(stand, 0, 0, quat.multiply(yaw, yaw, readRotation(stand, 0, 0, quat.create())));
  for (const side of SIDES) {
    const arm = jointIndex(skeleton, `${side}UpperArm`);
    const down = quat.setAxisAngle(quat.create(), [0, 0, side === 'left' ? -1 : 1], HANGING);
    if (arm >= 0) writeRotation(stand, arm, 0, quat.multiply(down, down, readRotation(stand, arm, 0, quat.create())));
  }
  return stand;
}
