import { z } from 'zod';
import { quat } from 'gl-matrix';
import { HAND_ANGLES, handPoseOf, handTurns } from '../hands/finger-turns';
import { HAND_SHAPE_NAMES, handShape, type HandShape } from '../hands/hand-shapes';
import { SIDES, type Side } from '../motion/humanoid';
import { copyMotion, readRotation, writeRotation, type Motion } from '../motion/motion';
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

/** A shape that was kept from a hand: radians, see `HAND_ANGLES`. */
export const OwnHandShape = z.object({
  name: z.string().trim().min(1).max(80),
  angles: z.array(z.number()).length(HAND_ANGLES),
});
export type OwnHandShape = z.infer<typeof OwnHandShape>;

/** The shape of a hand in a frame, to be kept. */
export function shapeAt(motion: Motion, side: Side, frame: number, name: string): OwnHandShape {
  const turn = (bone: string): quat => {
    const joint = jointIndex(motion.skeleton, bone);
    return joint < 0 ? quat.create() : readRotation(motion, joint, frame, quat.create());
  };
  return { name, angles: [...handPoseOf(side, turn)] };
}

const Options = z.object({
  shape: z
    .enum(HAND_SHAPE_NAMES as [HandShape, ...HandShape[]])
    .default('relaxed')
    .meta({ title: 'Shape', choices: TITLES }),
  hand: z
    .enum(['both', 'left', 'right'])
    .default('both')
    .meta({ title: 'Hand', choices: { both: 'both', left: 'left', right: 'right' } }),
  /** A shape of one's own, in the place of the ready one. */
  own: OwnHandShape.optional().meta({ hidden: true }),
});

/** Gives fingers a ready shape; range, ease and strength say when, and how much of what was captured stays. */
export const shapeHand: Pass<z.infer<typeof Options>> = {
  name: 'shape-hand',
  title: 'Hand shape',
  about:
    'Relaxes a hand, or gives it a ready shape: for hands that were not seen. Shapes of your own are kept from a frame.',
  options: Options,
  reach: () => 0,
  apply(motion: Motion, { shape, hand, own }): Motion {
    const out = copyMotion(motion);
    for (const side of SIDES) {
      if (hand !== 'both' && hand !== side) continue;
      for (const [bone, turn] of handTurns(side, own?.angles ?? handShape(shape))) {
        const joint = jointIndex(motion.skeleton, bone);
        if (joint < 0) continue;
        for (let frame = 0; frame < motion.frames; frame++) writeRotation(out, joint, frame, turn);
      }
    }
    return out;
  },
};
