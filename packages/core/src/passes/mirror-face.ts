import { z } from 'zod';
import { FACE_SHAPES, mirrorShape, shapeCurve, sideOfShape } from '../face/face-shapes';
import { copyMotion, type Motion } from '../motion/motion';
import type { Pass } from './pass';

const Options = z.object({
  how: z
    .enum(['mean', 'left', 'right', 'swap'])
    .default('mean')
    .meta({
      title: 'Both sides do',
      choices: {
        mean: 'what both do on average',
        left: 'what the left one does',
        right: 'what the right one does',
        swap: 'what the other one does',
      },
    }),
});

/** Gives both sides of a face the same, or each the other's. Where the eyes look is left alone. */
export const mirrorFace: Pass<z.infer<typeof Options>> = {
  name: 'mirror-face',
  title: 'Sides of the face',
  about: 'For a face of which one side was seen worse, or that shall be even.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { how }): Motion {
    const out = copyMotion(motion);
    const before = new Map(motion.curves.map(({ name, values }) => [name, values]));
    const after = new Map(out.curves.map(({ name, values }) => [name, values]));
    for (const shape of FACE_SHAPES) {
      const side = sideOfShape(shape);
      if (side === null || shape.startsWith('eyeLook')) continue;
      const [own, other] = [shape, mirrorShape(shape)].map((name) => before.get(shapeCurve(name)));
      const target = after.get(shapeCurve(shape));
      if (!own || !other || !target) continue;
      if (how === 'mean') target.forEach((_, frame) => (target[frame] = (own[frame] + other[frame]) / 2));
      else target.set(how === side ? own : other);
    }
    return out;
  },
};
