import { quat } from 'gl-matrix';
import { mirrorName } from '../motion/humanoid';
import { copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';

/** Local turns of joints by their names: a pose without its place and without the way that it faces. */
export type CopiedPose = Readonly<Record<string, readonly [number, number, number, number]>>;

/** Keeps the pose of a frame. The hips' turn about the upright is left out, so that it can be put on whoever faces another way. */
export function copyPose(motion: Motion, frame = 0): CopiedPose {
  return Object.fromEntries(
    motion.skeleton.joints.map(({ name }, joint) => {
      const turn = readRotation(motion, joint, frame, quat.create());
      if (joint === 0) quat.multiply(turn, quat.conjugate(quat.create(), upright(turn)), turn);
      return [name, [turn[0], turn[1], turn[2], turn[3]] as const];
    }),
  );
}

/** The same pose with left and right changed about; bones of our own bodies lie along the world's axes at rest. */
export const mirrorPose = (pose: CopiedPose): CopiedPose =>
  Object.fromEntries(Object.entries(pose).map(([name, [x, y, z, w]]) => [mirrorName(name), [x, -y, -z, w] as const]));

/** Puts a pose on a frame, which keeps its place and the way that it faces. The motion has one frame and is left alone. */
export function pastePose(motion: Motion, pose: CopiedPose): Motion {
  const out = copyMotion(motion);
  for (const [name, values] of Object.entries(pose)) {
    const joint = jointIndex(out.skeleton, name);
    if (joint < 0) continue;
    const turn: quat = [...values];
    if (joint === 0) quat.multiply(turn, upright(readRotation(motion, joint, 0, quat.create())), turn);
    writeRotation(out, joint, 0, turn);
  }
  return out;
}

/** The part of a turn that goes about the upright (swing–twist decomposition). */
function upright(turn: Readonly<quat>): quat {
  const about: quat = [0, turn[1], 0, turn[3]];
  return Math.hypot(turn[1], turn[3]) < 1e-6 ? [0, 0, 0, 1] : quat.normalize(about, about);
}
