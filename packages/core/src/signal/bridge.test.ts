import { describe, expect, it } from '@jest/globals';
import { quat } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { readRotation, restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { bridgeSpan } from './bridge';

const FRAMES = 40;
const ROOT = -1;

/** Hips that go on evenly to the side and an arm that turns evenly about one axis. */
function even(): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
  const arm = jointIndex(motion.skeleton, 'leftUpperArm');
  for (let f = 0; f < FRAMES; f++) {
    motion.root[f * 3] = f * 0.02;
    writeRotation(motion, arm, f, quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], f * 0.03));
  }
  return motion;
}

const angleOf = (motion: Motion, joint: number, frame: number): number =>
  quat.getAxisAngle([0, 0, 1], readRotation(motion, joint, frame, [0, 0, 0, 1]));

describe('bridging a span', () => {
  const arm = jointIndex(even().skeleton, 'leftUpperArm');

  it('goes on with the speed of both sides: what goes evenly is restored', () => {
    const motion = even();
    for (let f = 15; f < 25; f++) {
      motion.root[f * 3] = 9;
      writeRotation(motion, arm, f, quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], 2));
    }
    bridgeSpan(motion, ROOT, 15, 25);
    bridgeSpan(motion, arm, 15, 25);
    for (let f = 15; f < 25; f++) {
      expect(motion.root[f * 3]).toBeCloseTo(f * 0.02, 5);
      expect(Math.abs(angleOf(motion, arm, f) - f * 0.03)).toBeLessThan(0.06);
    }
  });

  it('has no jump where it joins what is left', () => {
    const motion = even();
    // The arm comes back another way after the span.
    for (let f = 25; f < FRAMES; f++)
      writeRotation(motion, arm, f, quat.setAxisAngle([0, 0, 0, 1], [0, 0, 1], 1.5 - f * 0.03));
    bridgeSpan(motion, arm, 15, 25);
    for (let f = 14; f < 26; f++)
      expect(Math.abs(angleOf(motion, arm, f + 1) - angleOf(motion, arm, f))).toBeLessThan(0.12);
  });

  it('holds the nearest pose at an end of the take, and leaves a take alone that is all gap', () => {
    const motion = even();
    bridgeSpan(motion, ROOT, 0, 5);
    bridgeSpan(motion, arm, 35, FRAMES);
    for (let f = 0; f < 5; f++) expect(motion.root[f * 3]).toBeCloseTo(0.1, 6);
    for (let f = 35; f < FRAMES; f++) expect(angleOf(motion, arm, f)).toBeCloseTo(34 * 0.03, 5);
    const whole = even();
    const before = whole.root.slice();
    bridgeSpan(whole, ROOT, 0, FRAMES);
    expect(whole.root).toEqual(before);
  });

  it('touches nothing but its joint and span', () => {
    const motion = even();
    const other = jointIndex(motion.skeleton, 'rightUpperLeg');
    const before = motion.rotations.slice();
    bridgeSpan(motion, arm, 15, 25);
    for (let f = 0; f < FRAMES; f++)
      for (const joint of [arm, other])
        if (joint === other || f < 15 || f >= 25)
          expect(Array.from(readRotation(motion, joint, f, [0, 0, 0, 1]))).toEqual(
            Array.from(before.subarray((joint * FRAMES + f) * 4, (joint * FRAMES + f) * 4 + 4)),
          );
  });
});
