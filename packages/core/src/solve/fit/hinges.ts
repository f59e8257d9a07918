import { quat } from 'gl-matrix';
import { SIDES } from '../../motion/humanoid';
import { copyMotion, emptyPose, poseAt, readRotation, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';

/** A motion whose elbows and knees are pure hinges, and what was taken off: the twist of the forearms and the world turns of head and hands. */
export interface HingedMotion {
  motion: Motion;
  /** By joint: frames × 4. Forearms: the twist behind the hinge. Neck, head, hands: the turn in the world. */
  kept: Map<string, Float64Array>;
}

const HINGES: readonly [part: string, axis: 0 | 1][] = [
  ['LowerArm', 1],
  ['LowerLeg', 0],
];
/** What keeps its turn in the world whatever the limbs below it do. */
const FREE = ['neck', 'head', 'leftHand', 'rightHand'];

/**
 * Makes hinges of elbows and knees: of each local turn only the part about the hinge's axis stays, the
 * rest goes into the upper bone (which way the hinge points) and the twist behind it (swing–twist
 * decomposition).
 */
export function prepareHinges(source: Motion): HingedMotion {
  const motion = copyMotion(source);
  const kept = new Map<string, Float64Array>();
  const turn: quat = [0, 0, 0, 1];
  const pose = emptyPose(motion.skeleton);
  for (const name of FREE) kept.set(name, new Float64Array(motion.frames * 4));
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    for (const name of FREE)
      kept
        .get(name)
        ?.set(
          pose.rotations.subarray(jointIndex(motion.skeleton, name) * 4, jointIndex(motion.skeleton, name) * 4 + 4),
          frame * 4,
        );
  }
  for (const side of SIDES) {
    for (const [part, axis] of HINGES) {
      const joint = jointIndex(motion.skeleton, side + part);
      const behind = new Float64Array(motion.frames * 4);
      for (let frame = 0; frame < motion.frames; frame++) {
        readRotation(motion, joint, frame, turn);
        const hinge: quat = axis === 0 ? [turn[0], 0, 0, turn[3]] : [0, turn[1], 0, turn[3]];
        if (Math.hypot(...hinge) < 1e-6) hinge[3] = 1;
        quat.normalize(hinge, hinge);
        behind.set(quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], hinge), turn), frame * 4);
        writeRotation(motion, joint, frame, hinge);
      }
      kept.set(side + part, behind);
    }
  }
  return { motion, kept };
}

/** Gives the forearms their twist back, and head, neck and hands the way they looked. Changes the motion in place. */
export function restoreLimbs({ motion, kept }: HingedMotion): void {
  const turn: quat = [0, 0, 0, 1];
  const at = (values: Float64Array, frame: number): quat => [
    values[frame * 4],
    values[frame * 4 + 1],
    values[frame * 4 + 2],
    values[frame * 4 + 3],
  ];
  const pose = emptyPose(motion.skeleton);
  for (const side of SIDES) {
    const joint = jointIndex(motion.skeleton, `${side}LowerArm`);
    const behind = kept.get(`${side}LowerArm`);
    if (!behind) continue;
    for (let frame = 0; frame < motion.frames; frame++)
      writeRotation(
        motion,
        joint,
        frame,
        quat.multiply([0, 0, 0, 1], readRotation(motion, joint, frame, turn), twistOf(at(behind, frame))),
      );
  }
  for (const name of FREE) {
    const joint = jointIndex(motion.skeleton, name);
    const world = kept.get(name);
    if (!world) continue;
    const parent = motion.skeleton.joints[joint].parent;
    for (let frame = 0; frame < motion.frames; frame++) {
      poseAt(motion, frame, pose);
      const above: quat = [
        pose.rotations[parent * 4],
        pose.rotations[parent * 4 + 1],
        pose.rotations[parent * 4 + 2],
        pose.rotations[parent * 4 + 3],
      ];
      writeRotation(
        motion,
        joint,
        frame,
        quat.normalize(above, quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], above), at(world, frame))),
      );
    }
  }
}

/** The part of a turn about the bone's own +X. */
function twistOf(turn: quat): quat {
  const twist: quat = [turn[0], 0, 0, turn[3]];
  return Math.hypot(twist[0], twist[3]) < 1e-6 ? [0, 0, 0, 1] : quat.normalize(twist, twist);
}
