import { quat } from 'gl-matrix';
import { readRotation, worldPositions, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { NO_CONTEXT } from '../passes/pass';
import { swapSides } from '../passes/swap-sides';
import type { SnagKind } from '../snags/snag';

/** Puts a fault into frames from … until − 1 of a motion, in place. @returns false where it does not apply. */
type Planter = (motion: Motion, from: number, until: number, size: number) => boolean;

const turnBy = (motion: Motion, name: string, frame: number, degrees: number): void => {
  const joint = jointIndex(motion.skeleton, name);
  const turn = readRotation(motion, joint, frame, [0, 0, 0, 1]);
  writeRotation(motion, joint, frame, quat.multiply(turn, turn, quat.fromEuler([0, 0, 0, 1], 0, degrees, degrees / 2)));
};

function handsMoved(before: Float64Array, after: Float64Array, motion: Motion, frame: number): number {
  const at = (frame * motion.skeleton.joints.length + jointIndex(motion.skeleton, 'leftHand')) * 3;
  return Math.hypot(...[0, 1, 2].map((k) => after[at + k] - before[at + k]));
}

/** For each kind, how a fault is planted, how many frames long it is, and of what sizes: degrees, metres, or metres a frame. */
export const PLANTERS: Partial<Record<SnagKind, { frames: number; sizes: readonly number[]; plant: Planter }>> = {
  pop: {
    frames: 1,
    sizes: [20, 35, 50],
    plant(motion, from, until, size) {
      for (let f = from; f < until; f++) turnBy(motion, 'rightUpperArm', f, size);
      return true;
    },
  },
  shake: {
    frames: 24,
    sizes: [4, 6, 8],
    plant(motion, from, until, size) {
      for (let f = from; f < until; f++) turnBy(motion, 'leftUpperArm', f, f % 2 ? size / 2 : -size / 2);
      return true;
    },
  },
  slide: {
    frames: 12,
    sizes: [0.004, 0.006, 0.01],
    plant(motion, from, until, size) {
      for (let f = from; f < motion.frames; f++) motion.root[f * 3] += size * (Math.min(f, until) - from);
      return true;
    },
  },
  sink: {
    frames: 12,
    sizes: [0.03, 0.05, 0.08],
    plant(motion, from, until, size) {
      for (let f = from; f < until; f++)
        motion.root[f * 3 + 1] -= size * Math.sin((Math.PI * (f - from + 0.5)) / (until - from));
      return true;
    },
  },
  hover: {
    frames: 24,
    sizes: [0.05, 0.08, 0.12],
    plant(motion, from, until, size) {
      for (let f = from; f < until; f++)
        motion.root[f * 3 + 1] += size * Math.min(1, (f - from + 1) / 4, (until - f) / 4);
      return true;
    },
  },
  swap: {
    frames: 8,
    sizes: [1],
    plant(motion, from, until) {
      const hands = worldPositions(motion);
      const swapped = swapSides.apply(motion, { limbs: 'arms' }, NO_CONTEXT);
      for (let j = 0; j < motion.skeleton.joints.length; j++) {
        const [a, b] = [(j * motion.frames + from) * 4, (j * motion.frames + until) * 4];
        motion.rotations.set(swapped.rotations.subarray(a, b), a);
      }
      // Arms that point alike can trade places unseen.
      return [from, until - 1].every((frame) => handsMoved(hands, worldPositions(motion), motion, frame) > 0.3);
    },
  },
  crossing: {
    frames: 16,
    sizes: [1],
    plant(motion, from, until) {
      const set = (name: string, f: number, x: number, y: number, z: number, share: number): void => {
        const joint = jointIndex(motion.skeleton, name);
        const turn = readRotation(motion, joint, f, [0, 0, 0, 1]);
        writeRotation(motion, joint, f, quat.slerp(turn, turn, quat.fromEuler([0, 0, 0, 1], x, y, z), share));
      };
      for (let f = from - 8; f < until + 8; f++) {
        const share = Math.min(1, (f - from + 9) / 9, (until + 8 - f) / 9);
        set('leftUpperArm', f, 0, 0, -72, share);
        set('leftLowerArm', f, 0, 0, -80, share);
      }
      return true;
    },
  },
};
