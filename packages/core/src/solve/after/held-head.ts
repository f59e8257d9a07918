import { quat } from 'gl-matrix';
import { copyMotion, readRotation, writeRotation, type Motion } from '../../motion/motion';
import { standEasy } from '../../motion/stand-easy';

/**
 * The body of somebody whose camera is fixed to the head: nothing in the picture tells how head and body move, so they stand easy and still, and the face alone moves.
 * @param motion of the same length, whatever it does.
 */
export function holdStill(motion: Motion): Motion {
  const out = copyMotion(motion);
  const stand = standEasy(motion.skeleton, motion.rate);
  for (let frame = 0; frame < motion.frames; frame++) {
    out.root.set(stand.root, frame * 3);
    motion.skeleton.joints.forEach((_, joint) =>
      writeRotation(out, joint, frame, readRotation(stand, joint, 0, quat.create())),
    );
  }
  return out;
}
