import { observeMotion } from '../../test/observe-motion';
import { lookAt } from '../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion } from '../motion/motion';
import { MARK, MARK_COUNT, type MarkName } from '../observe/body';
import { LEARNED_CORRECTION } from './learned-correction';
import {
  corrected,
  CORRECTED,
  correctionInput,
  correctionOf,
  INPUTS,
  OUTPUTS,
  type Correction,
} from './network-correction';

const HEIGHT = 1.7;
const camera = lookAt([0.4, 1.3, 4.4], [0, 0.9, 0], 52, 960, 540);
const observations = observeMotion(restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 3, 30), camera, HEIGHT);

/** A linear correction that moves one mark always alike: tenths of a body's height. */
function always(mark: MarkName, by: readonly [number, number, number]): Correction {
  const weights = new Float32Array(OUTPUTS * (INPUTS + 1));
  by.forEach((value, k) => (weights[(CORRECTED.indexOf(mark) * 3 + k) * (INPUTS + 1) + INPUTS] = value));
  return {
    mean: new Float32Array(INPUTS),
    deviation: new Float32Array(INPUTS).fill(1),
    layers: [{ rows: OUTPUTS, weights }],
  };
}
const point = (world: Float32Array, mark: MarkName): number[] =>
  Array.from(world.subarray((MARK_COUNT + MARK[mark]) * 3, (MARK_COUNT + MARK[mark]) * 3 + 3));

describe('correcting the network’s points', () => {
  it('moves a joint in parts of the body’s height, and what hangs on it', () => {
    const told = corrected(observations, 1 / HEIGHT, camera.focal, always('leftWrist', [0.5, 0, -1]));
    for (const mark of ['leftWrist', 'leftIndex'] as const) {
      const [x, , z] = point(told.world, mark).map((value, k) => value - point(observations.world, mark)[k]);
      expect(x).toBeCloseTo(0.05 * HEIGHT, 5);
      expect(z).toBeCloseTo(-0.1 * HEIGHT, 5);
    }
    expect(point(told.world, 'rightWrist')).toEqual(point(observations.world, 'rightWrist'));
    expect(told.marks).toBe(observations.marks);
  });

  it('takes the head along with the shoulders', () => {
    const told = corrected(observations, 1 / HEIGHT, camera.focal, always('leftShoulder', [0, 1, 0]));
    expect(point(told.world, 'nose')[1] - point(observations.world, 'nose')[1]).toBeCloseTo(0.05 * HEIGHT, 5);
  });

  it('leaves frames alone in which nobody is seen', () => {
    const presence = observations.presence.slice().fill(0);
    const told = corrected({ ...observations, presence }, 1 / HEIGHT, camera.focal, always('leftHip', [1, 1, 1]));
    expect(told.world).toEqual(observations.world);
  });

  it('does not depend on how far away or how tall somebody is', () => {
    const seen = (height: number, size: number): Float32Array => {
      const { marks, world } = observations;
      const other = {
        ...observations,
        marks: marks.map((value, i) => (i % 3 === 2 ? value : (value - [480, 270][i % 3]) * size + [480, 270][i % 3])),
        world: world.map((value) => (value * height) / HEIGHT),
      };
      return correctionInput(other, 1, 1 / height, camera.focal * size) as Float32Array;
    };
    seen(1.2, 0.5).forEach((value, i) => expect(value).toBeCloseTo(seen(HEIGHT, 1)[i], 3));
  });

  it('has layers that pass little of what is below zero', () => {
    const one = (weights: number[]): Correction => ({
      mean: new Float32Array(1),
      deviation: Float32Array.of(0.95),
      layers: [
        { rows: 1, weights: Float32Array.from(weights) },
        { rows: 1, weights: Float32Array.of(1, 0) },
      ],
    });
    expect(correctionOf(Float32Array.of(2), one([1, 0]))[0]).toBeCloseTo(0.2, 6);
    expect(correctionOf(Float32Array.of(2), one([-1, 0]))[0]).toBeCloseTo(-0.02, 6);
  });

  it('was learned as a whole, and is small for a body that stands', () => {
    expect(LEARNED_CORRECTION.mean).toHaveLength(INPUTS);
    expect(LEARNED_CORRECTION.layers[LEARNED_CORRECTION.layers.length - 1].rows).toBe(OUTPUTS);
    const off = correctionOf(
      correctionInput(observations, 1, 1 / HEIGHT, camera.focal) as Float32Array,
      LEARNED_CORRECTION,
    );
    for (const value of off) expect(Math.abs(value)).toBeLessThan(0.1);
  });
});
