import { quat, vec3 } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../src/motion/humanoid';
import { alignSigns, copyMotion, readRotation, restMotion, writeRotation, type Motion } from '../src/motion/motion';
import type { Joint } from '../src/motion/skeleton';

/** A motion in which every joint turns about all axes and the hips travel: nothing may hide in a test. */
export function exampleMotion(frames = 40, rate = 30, fingers = false): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7), fingers), frames, rate);
  motion.skeleton.joints.forEach((_, joint) => {
    for (let frame = 0; frame < frames; frame++) {
      const t = frame / rate;
      const turn = quat.fromEuler(
        quat.create(),
        24 * Math.sin(3 * t + joint),
        35 * Math.sin(2 * t + joint * 0.7),
        28 * Math.sin(4 * t + joint * 1.3),
      );
      writeRotation(motion, joint, frame, turn);
    }
  });
  for (let frame = 0; frame < frames; frame++) {
    motion.root[frame * 3] = 0.8 * Math.sin(frame / 20);
    motion.root[frame * 3 + 1] += 0.05 * Math.sin(frame / 3);
    motion.root[frame * 3 + 2] = frame * 0.02;
  }
  alignSigns(motion);
  return motion;
}

/** The same movement of a skeleton whose joints are turned at rest, each in another way: every joint goes the same way through the world. */
export function turnedAtRest(motion: Motion): Motion {
  const { joints } = motion.skeleton;
  const rest = joints.map((_, j) => quat.fromEuler(quat.create(), j * 37, j * 53, j * 71));
  const world: quat[] = [];
  const turned = joints.map(({ parent, offset, ...joint }, j): Joint => {
    const above = parent < 0 ? quat.create() : world[parent];
    world.push(quat.multiply(quat.create(), above, rest[j]));
    const back = quat.conjugate(quat.create(), above);
    const own = [...vec3.transformQuat(vec3.create(), [...offset], back)] as [number, number, number];
    return { ...joint, parent, offset: own, rest: [...rest[j]] as [number, number, number, number] };
  });
  const out = { ...copyMotion(motion), skeleton: { joints: turned } };
  joints.forEach(({ parent }, joint) => {
    const back = quat.conjugate(quat.create(), parent < 0 ? quat.create() : world[parent]);
    for (let frame = 0; frame < motion.frames; frame++) {
      const turn = readRotation(motion, joint, frame, quat.create());
      quat.multiply(turn, turn, world[joint]);
      writeRotation(out, joint, frame, quat.multiply(turn, back, turn));
    }
  });
  return out;
}

/** Largest distance between matching places, metres. */
export function farthest(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let most = 0;
  for (let i = 0; i < a.length; i += 3)
    most = Math.max(most, Math.hypot(a[i] - b[i], a[i + 1] - b[i + 1], a[i + 2] - b[i + 2]));
  return most;
}
