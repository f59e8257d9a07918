import { z } from 'zod';
import { handTurns } from '../hands/finger-turns';
import { HAND_SHAPE_NAMES, handShape, type HandShape } from '../hands/hand-shapes';
import { SIDES } from '../motion/humanoid';
import { copyMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import type { Pass } from './pass';

const TITLES: Record<HandShape, string> = {
  relaxed: 'relaxed',
  open: 'open, fingers apart',
  flat: 'flat',
  fist: 'fist',
  point: 'pointing',
  two: 'two',
  three: 'three',
  thumb: 'thumb up',
  pinch: 'pinch',
  grip: 'grip',
  claw: 'claw',
};

const Options = z.object({
  shape: z
    .enum(HAND_SHAPE_NAMES as [HandShape, ...HandShape[]])
    .default('relaxed')
    .meta({ title: 'Shape', choices: TITLES }),
  hand: z
    .enum(['both', 'left', 'right'])
    .default('both')
    .meta({ title: 'Hand', choices: { both: 'both', left: 'left', right: 'right' } }),
});

/** Gives fingers a ready shape; range, ease and strength say when, and how much of what was captured stays. */
export const shapeHand: Pass<z.infer<typeof Options>> = {
  name: 'shape-hand',
  title: 'Hand shape',
  about: 'Relaxes a hand, or gives it a ready shape: for hands that were not seen.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { shape, hand }): Motion {
    const out = copyMotion(motion);
    for (const side of SIDES) {
      if (hand !== 'both' && hand !== side) continue;
      for (const [bone, turn] of handTurns(side, handShape(shape))) {
        const joint = jointIndex(motion.skeleton, bone);
        if (joint < 0) continue;
        for (let frame = 0; frame < motion.frames; frame++) writeRotation(out, joint, frame, turn);
      }
    }
    return out;
  },
};
