import { quat } from 'gl-matrix';
import { observeMotion, solveMade } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { lowestSole } from '../../ground/floor';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { MARK, MARK_COUNT } from '../../observe/body';
import { withoutLegs } from '../observe/without-legs';
import { keepOnSpot, seat } from './manner';

const HEIGHT = 1.7;
const camera = lookAt([0.2, 1.3, 4], [0, 1, 0], 52, 960, 540);

/** Somebody who waves, and drifts to one side. */
function waving(frames = 60): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  const arm = jointIndex(motion.skeleton, 'leftUpperArm');
  for (let f = 0; f < frames; f++) {
    writeRotation(motion, arm, f, quat.fromEuler(quat.create(), 0, -20, 40 * Math.sin(f / 8)));
    motion.root[f * 3] += f * 0.01 + 0.02 * Math.sin(f * 1.2);
  }
  return motion;
}

describe('on the spot', () => {
  it('goes nowhere, but sways', () => {
    const motion = waving(150);
    keepOnSpot(motion);
    const x = Array.from({ length: 90 }, (_, i) => motion.root[(30 + i) * 3]);
    expect(Math.max(...x) - Math.min(...x)).toBeLessThan(0.12);
    expect(Math.max(...x) - Math.min(...x)).toBeGreaterThan(0.03);
  });
});

describe('seated', () => {
  it('sits at the height of a chair, feet flat on the floor, hips held, arms as they were', () => {
    const source = waving();
    const motion = seat(source);
    const places = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    const y = (name: string, f: number): number => places[f * stride + jointIndex(motion.skeleton, name) * 3 + 1];
    for (const f of [0, 30, 59]) {
      expect(y('leftUpperLeg', f)).toBeCloseTo(y('leftLowerLeg', f), 3);
      expect(motion.root.subarray(f * 3, f * 3 + 3)).toEqual(motion.root.subarray(0, 3));
    }
    expect(Math.max(...lowestSole(motion).map(Math.abs))).toBeLessThan(1e-3);
    const arm = jointIndex(motion.skeleton, 'leftUpperArm') * 240;
    expect(motion.rotations.subarray(arm, arm + 240)).toEqual(source.rotations.subarray(arm, arm + 240));
  });

  it('is solved whatever the network guesses of legs that are out of the picture', () => {
    const observations = observeMotion(waving(), camera, HEIGHT);
    const wild = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < 60; f++)
      for (const name of ['leftKnee', 'rightAnkle', 'leftFootIndex'] as const)
        wild.marks[(f * MARK_COUNT + MARK[name]) * 3] += 200 * Math.sin(f);
    const options = { height: HEIGHT, fieldOfView: 52, manner: 'seated' } as const;
    const [calm, upset] = [solveMade(observations, options), solveMade(wild, options)];
    const [a, b] = [worldPositions(calm.motion), worldPositions(upset.motion)];
    let most = 0;
    for (let i = 0; i < a.length; i++) most = Math.max(most, Math.abs(a[i] - b[i]));
    expect(most).toBeLessThan(0.02);
    expect(calm.contacts).toBeNull();
  });

  it('leaves the footage alone', () => {
    const observations = observeMotion(waving(5), camera, HEIGHT);
    const before = observations.marks.slice();
    expect(withoutLegs(observations).marks[MARK.leftKnee * 3 + 2]).toBe(0);
    expect(observations.marks).toEqual(before);
  });
});
