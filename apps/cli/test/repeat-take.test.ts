import { humanoidSkeleton, averageProportions } from '@merry-shadow/core/motion/humanoid';
import { restMotion } from '@merry-shadow/core/motion/motion';
import { repeatTake } from '../src/repeat-take';

it('a take that is repeated goes through its frames over and over', () => {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 7, 30);
  for (let f = 0; f < 7; f++) motion.root[f * 3] = f;
  for (let f = 0; f < 7; f++) motion.rotations[(3 * 7 + f) * 4] = f / 10;
  const rests = Float64Array.of(1, 1, 0, 0, 0, 1, 1);
  const contacts = { leftHeel: rests, leftToe: rests, rightHeel: rests, rightToe: rests };
  const long = repeatTake({ motion, bridged: Uint8Array.of(0, 0, 0, 1, 0, 0, 0), contacts }, 20);
  expect(long.motion.frames).toBe(20);
  expect([0, 6, 7, 19].map((f) => long.motion.root[f * 3])).toEqual([0, 6, 0, 5]);
  expect(long.motion.rotations[(3 * 20 + 13) * 4]).toBeCloseTo(0.6, 6);
  expect([...long.bridged].filter((flag) => flag)).toHaveLength(3);
  expect(long.contacts?.rightToe[9]).toBe(0);
  expect(long.contacts?.rightToe[12]).toBe(1);
});
