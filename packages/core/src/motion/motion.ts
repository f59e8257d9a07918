import './double-precision';
import type { quat } from 'gl-matrix';
import { multiply, rotate } from './flat-turns';
import type { Skeleton } from './skeleton';

/** A value for each frame that is no joint: how far the jaw opens, where the eyes look. */
export interface Curve {
  /** With a dot after the part of the body: `face.jawOpen`. */
  readonly name: string;
  /** One value for each frame. */
  readonly values: Float32Array;
}

/**
 * A motion: for each joint a column of local rotations, the path of the root, and curves. What treats all of these alike goes by `motionColumns`.
 *
 * `rotations` holds joints × frames × 4, the quaternion (x, y, z, w) of joint j in frame f at
 * `(j * frames + f) * 4`. `root` holds frames × 3: where the root joint is, metres.
 */
export interface Motion {
  readonly skeleton: Skeleton;
  /** Frames in a second. */
  readonly rate: number;
  readonly frames: number;
  readonly rotations: Float32Array;
  readonly root: Float32Array;
  readonly curves: readonly Curve[];
}

/** A motion that stands in the rest pose throughout. */
export function restMotion(skeleton: Skeleton, frames: number, rate: number): Motion {
  const rotations = new Float32Array(skeleton.joints.length * frames * 4);
  skeleton.joints.forEach(({ rest = [0, 0, 0, 1] }, joint) => {
    for (let frame = 0; frame < frames; frame++) rotations.set(rest, (joint * frames + frame) * 4);
  });
  const root = new Float32Array(frames * 3);
  for (let frame = 0; frame < frames; frame++) root.set(skeleton.joints[0].offset, frame * 3);
  return { skeleton, rate, frames, rotations, root, curves: [] };
}

/** A copy whose columns may be changed without touching the first. */
export function copyMotion(motion: Motion): Motion {
  const curves = motion.curves.map(({ name, values }) => ({ name, values: values.slice() }));
  return { ...motion, rotations: motion.rotations.slice(), root: motion.root.slice(), curves };
}

export function readRotation(motion: Motion, joint: number, frame: number, out: quat): quat {
  const at = (joint * motion.frames + frame) * 4;
  const r = motion.rotations;
  for (let k = 0; k < 4; k++) out[k] = r[at + k];
  return out;
}

export function writeRotation(motion: Motion, joint: number, frame: number, value: Readonly<quat>): void {
  const at = (joint * motion.frames + frame) * 4;
  for (let k = 0; k < 4; k++) motion.rotations[at + k] = value[k];
}

/**
 * Makes every rotation column continuous: of q and −q, which turn alike, the one nearer to the
 * frame before is taken. Changes the motion in place.
 */
export function alignSigns(motion: Motion): void {
  const r = motion.rotations;
  for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
    for (let frame = 1; frame < motion.frames; frame++) {
      const b = (joint * motion.frames + frame) * 4;
      const a = b - 4;
      if (r[a] * r[b] + r[a + 1] * r[b + 1] + r[a + 2] * r[b + 2] + r[a + 3] * r[b + 3] < 0) {
        for (let i = 0; i < 4; i++) r[b + i] = -r[b + i];
      }
    }
  }
}

/** Joint places and turns of one frame in the world. */
export interface Pose {
  /** joints × 3, metres. */
  readonly positions: Float64Array;
  /** joints × 4, quaternions (x, y, z, w). */
  readonly rotations: Float64Array;
}

export function emptyPose(skeleton: Skeleton): Pose {
  const joints = skeleton.joints.length;
  return { positions: new Float64Array(joints * 3), rotations: new Float64Array(joints * 4) };
}

/**
 * Forward kinematics: fills a pose with the world places and turns of one frame.
 * @param frame 0 … frames − 1.
 * @param joints the joints that are wanted, each after its parent (see `chainOf`); all if left out.
 */
export function poseAt(motion: Motion, frame: number, out: Pose, joints?: ArrayLike<number>): Pose {
  const { skeleton, frames, rotations, root } = motion;
  const { positions, rotations: turns } = out;
  const count = joints ? joints.length : skeleton.joints.length;
  for (let i = 0; i < count; i++) {
    const joint = joints ? joints[i] : i;
    const { parent, offset } = skeleton.joints[joint];
    const at = (joint * frames + frame) * 4;
    if (parent < 0) {
      for (let k = 0; k < 3; k++) positions[joint * 3 + k] = root[frame * 3 + k];
      for (let k = 0; k < 4; k++) turns[joint * 4 + k] = rotations[at + k];
      continue;
    }
    rotate(turns, parent * 4, offset[0], offset[1], offset[2], positions, joint * 3);
    for (let k = 0; k < 3; k++) positions[joint * 3 + k] += positions[parent * 3 + k];
    multiply(turns, parent * 4, rotations, at, turns, joint * 4);
  }
  return out;
}

/**
 * World positions of every joint in every frame.
 * @returns Float64Array of frames × joints × 3, metres.
 */
export function worldPositions(motion: Motion): Float64Array {
  const stride = motion.skeleton.joints.length * 3;
  const out = new Float64Array(motion.frames * stride);
  const pose = emptyPose(motion.skeleton);
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose);
    out.set(pose.positions, frame * stride);
  }
  return out;
}
