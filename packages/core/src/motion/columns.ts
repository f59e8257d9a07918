import { bodyPartOf, type BodyPart } from './body-parts';
import type { Motion } from './motion';

/** Values of a motion that belong together, frame after frame. */
export interface MotionColumn {
  /** `root`, `turn.JOINT` or a curve's own name. */
  readonly name: string;
  readonly part: BodyPart;
  /** Values of a frame: 4 for a turn, 3 for the root, 1 for a curve. */
  readonly width: number;
  /** frames × width, a view of the motion's own numbers. */
  readonly data: Float32Array;
}

/** Every column of a motion: the root's path, the turns of each joint, the curves. */
export function motionColumns({ skeleton, frames, rotations, root, curves }: Motion): MotionColumn[] {
  return [
    { name: 'root', part: 'root', width: 3, data: root },
    ...skeleton.joints.map(({ name }, joint): MotionColumn => {
      const data = rotations.subarray(joint * frames * 4, (joint + 1) * frames * 4);
      return { name: `turn.${name}`, part: bodyPartOf(name), width: 4, data };
    }),
    ...curves.map(({ name, values }): MotionColumn => ({ name, part: 'face', width: 1, data: values })),
  ];
}

/** A motion with the same columns and other frames, all zero. */
export const withFrames = (motion: Motion, frames: number, rate = motion.rate): Motion => ({
  skeleton: motion.skeleton,
  rate,
  frames,
  rotations: new Float32Array(motion.skeleton.joints.length * frames * 4),
  root: new Float32Array(frames * 3),
  curves: motion.curves.map(({ name }) => ({ name, values: new Float32Array(frames) })),
});
