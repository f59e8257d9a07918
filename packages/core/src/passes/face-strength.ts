import { z } from 'zod';
import { FACE_GROUPS, FACE_SHAPES, groupOfShape, shapeCurve, sideOfShape } from '../face/face-shapes';
import { copyMotion, type Motion } from '../motion/motion';
import type { Pass } from './pass';

const Options = z.object({
  group: z
    .enum(['all', ...FACE_GROUPS])
    .default('all')
    .meta({
      title: 'Part of the face',
      choices: { all: 'all of it', brows: 'brows', eyes: 'eyes', jaw: 'jaw', mouth: 'mouth' },
    }),
  side: z
    .enum(['both', 'left', 'right'])
    .default('both')
    .meta({ title: 'Side', choices: { both: 'both', left: 'left', right: 'right' } }),
  gain: z.number().min(0).max(3).default(1.2).meta({ title: 'Times', unit: '×', step: 0.05 }),
  offset: z.number().min(-0.5).max(0.5).default(0).meta({ title: 'And added', unit: '', step: 0.02 }),
});

/** Makes what a part of the face does stronger or weaker: each of its shapes times a factor, and something added, from 0 to 1. */
export const faceStrength: Pass<z.infer<typeof Options>> = {
  name: 'face-strength',
  title: 'Strength of the face',
  about: 'Makes brows, eyes, jaw or mouth do more or less, on one side or both.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { group, side, gain, offset }): Motion {
    const chosen = new Set(
      FACE_SHAPES.filter(
        (shape) =>
          // Where the eyes look is no strength.
          !shape.startsWith('eyeLook') &&
          (group === 'all' || groupOfShape(shape) === group) &&
          (side === 'both' || sideOfShape(shape) === side),
      ).map(shapeCurve),
    );
    const out = copyMotion(motion);
    for (const { name, values } of out.curves)
      if (chosen.has(name))
        for (let frame = 0; frame < values.length; frame++)
          values[frame] = Math.min(1, Math.max(0, values[frame] * gain + offset));
    return out;
  },
};
