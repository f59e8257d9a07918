import { exampleMotion } from '../../test/example-motion';
import { soleTrack, solePoints } from '../ground/floor';
import { worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { legLoop } from './leg-loop';
import { NO_CONTEXT } from './pass';

/** Somebody whose hips stay about one place, whatever the legs do. */
const motion: Motion = (() => {
  const example = exampleMotion(120);
  const root = example.root.slice();
  for (let f = 0; f < 120; f++) root.set([0.3 + 0.02 * Math.sin(f / 9), 0.9, -0.2], f * 3);
  return { ...example, root };
})();
const run = (options: object): Motion => legLoop.apply(motion, legLoop.options.parse(options), NO_CONTEXT);
const points = solePoints(motion);
/** Where a point of the soles is in each frame. */
const course = (out: Motion, name: string): number[][] => {
  const track = soleTrack(out, points);
  const i = points.findIndex((point) => point.name === name);
  return Array.from({ length: out.frames }, (_, f) => [0, 1, 2].map((k) => track[(f * points.length + i) * 3 + k]));
};
const spread = (places: number[][]): number =>
  Math.max(...[0, 1, 2].map((k) => Math.max(...places.map((p) => p[k])) - Math.min(...places.map((p) => p[k]))));

it('stands on feet that stay flat on the floor, so far apart, and leaves the upper body alone', () => {
  const out = run({ loop: 'standing', apart: 30 });
  for (const { name } of points) {
    const places = course(out, name);
    expect(spread(places)).toBeLessThan(0.003);
    expect(Math.abs(places[0][1])).toBeLessThan(0.004);
  }
  const [left, right] = ['leftHeel', 'rightHeel'].map((name) => course(out, name)[5]);
  expect(Math.hypot(left[0] - right[0], left[2] - right[2])).toBeCloseTo(0.3, 1);
  const [before, after] = [motion, out].map(worldPositions);
  const joints = motion.skeleton.joints.length;
  for (const name of ['head', 'leftHand', 'rightLowerArm']) {
    const j = jointIndex(motion.skeleton, name);
    for (let f = 0; f < 120; f += 7)
      for (let k = 0; k < 3; k++)
        expect(Math.abs(after[(f * joints + j) * 3 + k] - before[(f * joints + j) * 3 + k])).toBeLessThan(
          k === 1 ? 0.12 : 0.0085,
        );
  }
});

it('shifts its weight with one heel up at a time, and taps with one foot', () => {
  const shifting = run({ loop: 'shifting', pace: 2 });
  const [left, right] = ['leftHeel', 'rightHeel'].map((name) => course(shifting, name).map(([, y]) => y));
  expect(Math.max(...left)).toBeGreaterThan(0.02);
  expect(Math.max(...right)).toBeGreaterThan(0.02);
  left.forEach((height, f) => expect(Math.min(height, right[f])).toBeLessThan(0.006));
  for (const name of ['leftToe', 'rightToe']) expect(spread(course(shifting, name))).toBeLessThan(0.02);
  const tapping = run({ loop: 'tapping', pace: 1 });
  expect(spread(course(tapping, 'rightHeel'))).toBeLessThan(0.01);
  expect(spread(course(tapping, 'rightToe'))).toBeGreaterThan(0.03);
  expect(spread(course(tapping, 'leftToe'))).toBeLessThan(0.003);
});

it('sits with knees ahead of the hips', () => {
  const low: Motion = { ...motion, root: motion.root.map((value, i) => (i % 3 === 1 ? 0.5 : value)) };
  const out = legLoop.apply(low, legLoop.options.parse({ loop: 'seated' }), NO_CONTEXT);
  const places = worldPositions(out);
  const at = (name: string, k: number): number =>
    places[(60 * motion.skeleton.joints.length + jointIndex(motion.skeleton, name)) * 3 + k];
  expect(at('leftLowerLeg', 1)).toBeGreaterThan(0.3);
  expect(Math.hypot(at('leftLowerLeg', 0) - at('hips', 0), at('leftLowerLeg', 2) - at('hips', 2))).toBeGreaterThan(
    0.25,
  );
  expect(spread(course(out, 'leftHeel'))).toBeLessThan(0.003);
});
