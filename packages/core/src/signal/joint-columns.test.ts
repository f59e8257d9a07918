import { quat } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { median, neverTurns, offMiddle, turnBetween } from './joint-columns';

const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 5, 30);
const arm = jointIndex(motion.skeleton, 'leftUpperArm');
[0, 10, 35, 30, 40].forEach((degrees, frame) =>
  writeRotation(motion, arm, frame, quat.fromEuler(quat.create(), 0, 0, degrees)),
);
// The same turn with the other sign.
writeRotation(motion, arm, 3, quat.scale(quat.create(), quat.fromEuler(quat.create(), 0, 0, 30), -1));
const degrees = (radians: number): number => (radians * 180) / Math.PI;

describe('columns of a joint', () => {
  it('tell the turn between frames and off the middle of the neighbours, whatever the signs', () => {
    expect(degrees(turnBetween(motion, arm, 0, 2))).toBeCloseTo(35, 3);
    expect(degrees(turnBetween(motion, arm, 2, 3))).toBeCloseTo(5, 3);
    expect(degrees(offMiddle(motion, arm, 2))).toBeCloseTo(15, 3);
    expect(degrees(offMiddle(motion, arm, 3))).toBeCloseTo(7.5, 3);
    expect([0, 4].map((frame) => offMiddle(motion, arm, frame))).toEqual([0, 0]);
  });

  it('know what never turns', () => {
    expect(neverTurns(motion, arm)).toBe(false);
    expect(neverTurns(motion, jointIndex(motion.skeleton, 'head'))).toBe(true);
  });

  it('have a median', () => {
    expect(median([3, 1, 2])).toBe(2);
    expect(median(Float64Array.of(4, 1, 9, 2))).toBe(4);
    expect(median([])).toBe(0);
  });
});
