import { handFeatures } from '@merry-shadow/core/hands/hand-features';
import { trueHandPose } from '@merry-shadow/core/measure/measure-hands';
import type { Truth } from '@merry-shadow/core/measure/truth';
import { SIDES } from '@merry-shadow/core/motion/humanoid';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { partIsSeen } from '@merry-shadow/core/observe/unseen';
import type { NetExample } from './train-small-net';

/** What a small network is to tell of the hands that were seen in a clip: their finger angles. */
export function handExamples({ hands, frames }: Pick<Observations, 'hands' | 'frames'>, truth: Truth): NetExample[] {
  const examples: NetExample[] = [];
  for (const side of SIDES)
    for (let frame = 0; frame < Math.min(frames, truth.frames); frame++) {
      const hand = hands?.[side];
      if (!hand || !partIsSeen(hand, frame)) continue;
      examples.push({
        inputs: handFeatures(hand, frame, side),
        outputs: trueHandPose(truth, frame, side),
      });
    }
  return examples;
}
