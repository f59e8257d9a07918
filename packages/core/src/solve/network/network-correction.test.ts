import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { quat } from 'gl-matrix';
import { restMotion, writeRotation } from '../../motion/motion';
import { MARK, MARK_COUNT, type MarkName } from '../../observe/body';
import { LEARNED_CORRECTION } from './learned-correction';
import type { LearnedMap } from './learned-map';
import {
  bodyInput,
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

/** A map that gives the same whatever it is asked. */
const constant = (width: number, values: Float32Array): LearnedMap => ({
  mean: new Float32Array(width),
  scale: new Float32Array(width).fill(1),
  linear: Array.from(values, (value) => Float32Array.from({ length: width + 1 }, (_, i) => (i === width ? value : 0))),
  centres: [],
  bells: [],
  narrow: 1,
});

/** A correction that moves one mark always alike in the camera's axes: tenths of a body's height. */
function always(mark: MarkName, by: readonly [number, number, number], inBody = false): Correction {
  const values = new Float32Array(OUTPUTS);
  values.set(by, CORRECTED.indexOf(mark) * 3);
  const none = new Float32Array(OUTPUTS);
  const width = bodyInput(new Float32Array(INPUTS)).length;
  // The mean of two maps is taken.
  const twice = values.map((value) => 2 * value);
  return { camera: constant(INPUTS, inBody ? none : twice), body: constant(width, inBody ? twice : none), share: 1 };
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

  it('in the body’s own axes goes along with it as it turns', () => {
    const turned = (degrees: number): Float32Array => {
      const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 3, 30);
      for (let f = 0; f < 3; f++) writeRotation(motion, 0, f, quat.fromEuler(quat.create(), 0, degrees, 0));
      const level = lookAt([0, 0.9, 4.4], [0, 0.9, 0], 52, 960, 540);
      const seen = observeMotion(motion, level, HEIGHT);
      return correctionOf(
        correctionInput(seen, 1, 1 / HEIGHT, level.focal) as Float32Array,
        always('leftKnee', [0, 0, 1], true),
      );
    };
    const at = CORRECTED.indexOf('leftKnee') * 3;
    const [ahead, aside, back] = [0, 90, 180].map((degrees) => Array.from(turned(degrees).subarray(at, at + 3)));
    expect(ahead[2]).toBeCloseTo(0.1, 2);
    expect(aside[0]).toBeCloseTo(0.1, 2);
    expect(back[2]).toBeCloseTo(-0.1, 2);
  });

  it('is believed by its share', () => {
    const input = correctionInput(observations, 1, 1 / HEIGHT, camera.focal) as Float32Array;
    const whole = always('leftKnee', [0, 0, 1]);
    const at = CORRECTED.indexOf('leftKnee') * 3 + 2;
    expect(correctionOf(input, { ...whole, share: 0.6 })[at]).toBeCloseTo(0.6 * correctionOf(input, whole)[at], 6);
  });

  it('was learned as a whole, and is small for a body that stands', () => {
    expect(LEARNED_CORRECTION.camera.mean).toHaveLength(INPUTS);
    expect(LEARNED_CORRECTION.body.mean).toHaveLength(bodyInput(new Float32Array(INPUTS)).length);
    for (const { linear, centres, bells } of [LEARNED_CORRECTION.camera, LEARNED_CORRECTION.body]) {
      expect(linear).toHaveLength(OUTPUTS);
      expect(bells).toHaveLength(centres.length);
    }
    const off = correctionOf(
      correctionInput(observations, 1, 1 / HEIGHT, camera.focal) as Float32Array,
      LEARNED_CORRECTION,
    );
    for (const value of off) expect(Math.abs(value)).toBeLessThan(0.1);
  });
});
