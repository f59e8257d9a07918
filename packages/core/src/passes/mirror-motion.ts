import { quat } from 'gl-matrix';
import { z } from 'zod';
import { FACE_SHAPES, mirrorShape, shapeCurve } from '../face/face-shapes';
import { GAZE_CURVES } from '../face/gaze';
import { mirrorName } from '../motion/humanoid';
import { alignSigns, copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import type { Pass } from './pass';

/** Names of curves that trade their values. */
const OTHER_SIDE = new Map(FACE_SHAPES.map((shape) => [shapeCurve(shape), shapeCurve(mirrorShape(shape))]));

/** What the motion is in a mirror that stands along the camera's line of sight: left becomes right, for body, fingers and face. */
export const mirrorMotion: Pass<Record<string, never>> = {
  name: 'mirror-motion',
  title: 'Mirror the whole motion',
  about: 'Left becomes right, as in a mirror. The length stays.',
  options: z.strictObject({}),
  timing: true,
  length: ({ frames, rate }) => ({ frames, rate }),
  apply(motion: Motion): Motion {
    const out = copyMotion(motion);
    const turn = quat.create();
    motion.skeleton.joints.forEach(({ name }, joint) => {
      const other = jointIndex(motion.skeleton, mirrorName(name));
      if (other < 0) return;
      for (let frame = 0; frame < motion.frames; frame++) {
        const [x, y, z, w] = readRotation(motion, other, frame, turn);
        // Bones of our own bodies lie along the world's axes at rest, both sides alike.
        writeRotation(out, joint, frame, [x, -y, -z, w]);
      }
    });
    for (let at = 0; at < out.root.length; at += 3) out.root[at] *= -1;
    const values = new Map(motion.curves.map((curve) => [curve.name, curve.values]));
    for (const curve of out.curves) {
      curve.values.set(values.get(OTHER_SIDE.get(curve.name) ?? curve.name) ?? curve.values);
      if (curve.name === GAZE_CURVES.across) curve.values.forEach((value, i) => (curve.values[i] = -value));
    }
    alignSigns(out);
    return out;
  },
};
