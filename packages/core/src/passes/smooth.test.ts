import { quat } from 'gl-matrix';
import { exampleMotion, farthest } from '../../test/example-motion';
import { readRotation, worldPositions, writeRotation } from '../motion/motion';
import { gaussianColumns } from '../signal/gaussian';
import { NO_CONTEXT } from './pass';
import { smooth } from './smooth';

describe('smoothing', () => {
  it('leaves the input alone and keeps turns at length one', () => {
    const motion = exampleMotion(40);
    const copy = motion.rotations.slice();
    const out = smooth.apply(motion, { joints: 0.08, root: 0.1, face: 0, gestures: false }, NO_CONTEXT);
    expect(motion.rotations).toEqual(copy);
    const turn = quat.create();
    for (let f = 0; f < 40; f++) expect(quat.length(readRotation(out, 3, f, turn))).toBeCloseTo(1, 5);
  });

  it('does nothing at zero', () => {
    const motion = exampleMotion(30);
    expect(
      farthest(
        worldPositions(smooth.apply(motion, { joints: 0, root: 0, face: 0, gestures: false }, NO_CONTEXT)),
        worldPositions(motion),
      ),
    ).toBeLessThan(1e-6);
  });

  it('takes out shake and keeps the phase', () => {
    const motion = exampleMotion(60);
    const clean = motion.rotations.slice();
    const turn = quat.create();
    for (let f = 0; f < 60; f++)
      writeRotation(
        motion,
        5,
        f,
        quat.multiply(
          quat.create(),
          readRotation(motion, 5, f, turn),
          quat.setAxisAngle(quat.create(), [1, 0, 0], f % 2 ? 0.05 : -0.05),
        ),
      );
    const out = smooth.apply(motion, { joints: 0.05, root: 0, face: 0, gestures: false }, NO_CONTEXT);
    const far = (columns: Float32Array): number => {
      let sum = 0;
      for (let i = 5 * 240 + 40; i < 6 * 240 - 40; i++) sum += Math.abs(columns[i] - clean[i]);
      return sum;
    };
    expect(far(out.rotations)).toBeLessThan(far(motion.rotations) / 3);
  });

  it('keeps the area under a peak', () => {
    const peak = new Float32Array(21);
    peak[10] = 1;
    const out = gaussianColumns(peak, 1, 2);
    expect(out.reduce((sum, value) => sum + value, 0)).toBeCloseTo(1, 5);
    expect(out.indexOf(Math.max(...out))).toBe(10);
    for (let i = 0; i < 10; i++) expect(out[i]).toBeCloseTo(out[20 - i], 6);
  });

  it('has a default for every option and refuses nonsense', () => {
    expect(smooth.options.parse({})).toEqual({ joints: 0.04, root: 0.06, face: 0, gestures: true });
    expect(() => smooth.options.parse({ joints: -1 })).toThrow();
  });
});
