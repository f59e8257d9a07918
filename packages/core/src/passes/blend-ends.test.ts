import { exampleMotion } from '../../test/example-motion';
import { lowestSole } from '../ground/floor';
import { emptyPose, poseAt, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { blendEnds } from './blend-ends';
import { NO_CONTEXT } from './pass';

const motion: Motion = {
  ...exampleMotion(90),
  curves: [{ name: 'face.jawOpen', values: new Float32Array(90).fill(0.6) }],
};
const blended = blendEnds.apply(motion, { in: 0.5, out: 1 }, NO_CONTEXT);
const place = (of: Motion, frame: number, joint: string): number[] => {
  const { positions } = poseAt(of, frame, emptyPose(of.skeleton));
  const at = jointIndex(of.skeleton, joint) * 3;
  return [...positions.subarray(at, at + 3)];
};

describe('blending in and out', () => {
  it('begins and ends with somebody who stands on the floor with hanging arms, where the motion is', () => {
    expect(blended.frames).toBe(90);
    for (const frame of [0, 89]) {
      expect(Math.abs(lowestSole(blended)[frame])).toBeLessThan(0.005);
      expect(place(blended, frame, 'leftHand')[1]).toBeLessThan(place(blended, frame, 'chest')[1] - 0.25);
      for (const k of [0, 2]) expect(blended.root[frame * 3 + k]).toBeCloseTo(motion.root[frame * 3 + k], 5);
      expect(blended.curves[0].values[frame]).toBe(0);
    }
  });

  it('leaves what lies between as it is, and comes and goes without a jump', () => {
    for (let frame = 15; frame < 60; frame++)
      place(blended, frame, 'leftHand').forEach((value, k) =>
        expect(value).toBeCloseTo(place(motion, frame, 'leftHand')[k], 4),
      );
    for (let frame = 1; frame < 90; frame++) {
      const [a, b] = [place(blended, frame - 1, 'head'), place(blended, frame, 'head')];
      expect(Math.hypot(...a.map((value, k) => value - b[k]))).toBeLessThan(0.15);
    }
    expect(blendEnds.apply(motion, { in: 0, out: 0 }, NO_CONTEXT).root).toEqual(motion.root);
  });
});
