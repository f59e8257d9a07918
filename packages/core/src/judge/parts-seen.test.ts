import { MARK, MARK_COUNT } from '../observe/body';
import { partsSeen } from './parts-seen';

const size = { width: 640, height: 360 };
const marks = (change: (marks: Float32Array) => void = () => undefined): Float32Array => {
  const out = new Float32Array(MARK_COUNT * 3);
  for (let i = 0; i < MARK_COUNT; i++) out.set([320, 180, 0.9], i * 3);
  change(out);
  return out;
};
const missing = (list: Float32Array | null): string[] =>
  Object.entries(partsSeen(list, size)).flatMap(([part, seen]) => (seen ? [] : [part]));

it('tells parts that leave the picture or are hidden', () => {
  expect(missing(marks())).toEqual([]);
  expect(missing(marks((list) => list.set([320, 371, 0.9], MARK.leftAnkle * 3)))).toEqual(['leftLeg']);
  expect(missing(marks((list) => list.set([320, 180, 0.2], MARK.rightWrist * 3)))).toEqual(['rightArm']);
  expect(missing(null)).toHaveLength(6);
});
