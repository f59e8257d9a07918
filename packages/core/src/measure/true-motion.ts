import { rotateBack } from '../motion/flat-turns';
import { emptyPose, poseAt, restMotion, type Motion } from '../motion/motion';
import type { Joint } from '../motion/skeleton';
import type { Truth } from './truth';

/** The truth as a motion: turns as they are told, bones as long as they lie in the first frame, toes with the tip that ours have. */
export function trueMotion({ joints, parents, frames, rate, positions, rotations }: Truth): Motion {
  const bare = joints.map((name, i): Joint => ({ name, parent: parents[i], offset: [0, 0, 0] }));
  const motion = restMotion({ joints: bare }, frames, rate);
  joints.forEach((_, j) => {
    for (let frame = 0; frame < frames; frame++) {
      motion.rotations.set(rotations[frame].slice(j * 4, j * 4 + 4), (j * frames + frame) * 4);
      if (j === 0) motion.root.set(positions[frame].slice(0, 3), frame * 3);
    }
  });
  const { rotations: turns } = poseAt(motion, 0, emptyPose(motion.skeleton));
  const along = new Float64Array(3);
  const told = bare.map((joint, j): Joint => {
    const { parent } = joint;
    if (parent < 0) return { ...joint, offset: [positions[0][0], positions[0][1], positions[0][2]] };
    const way = [0, 1, 2].map((k) => positions[0][j * 3 + k] - positions[0][parent * 3 + k]);
    rotateBack(turns, parent * 4, way[0], way[1], way[2], along);
    return { ...joint, offset: [along[0], along[1], along[2]] };
  });
  return { ...motion, skeleton: { joints: told } };
}
