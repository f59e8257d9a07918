import { describe, expect, it } from '@jest/globals';
import { observeMotion } from '../../test/observe-motion';
import { lookAt } from '../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { MARK, MARK_COUNT } from '../observe/body';
import { handRests } from './hand-rests';
import { holdPlants } from './hold-plants';
import { plantsFrom } from './plants';

const camera = lookAt([0, 1.4, 5], [0, 0.9, 0], 52, 960, 540);
const FRAMES = 60;

/** A body whose left arm stands straight up until it is turned down to the floor beside it, where it rests from 20 until 50. */
function leaning(): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
  const wrist = jointIndex(motion.skeleton, 'leftHand');
  // The body sinks until its outstretched arm, hanging at the side, comes down to the floor.
  const arm = jointIndex(motion.skeleton, 'leftUpperArm');
  for (let f = 0; f < FRAMES; f++) motion.rotations.set([0, 0, -Math.SQRT1_2, Math.SQRT1_2], (arm * FRAMES + f) * 4);
  const hanging = worldPositions(motion)[wrist * 3 + 1];
  for (let f = 0; f < FRAMES; f++) {
    const away = Math.max(0, 20 - f, f - 50) / 10;
    motion.root[f * 3 + 1] += 0.08 - hanging + away * 0.4;
    // While it rests it slides by a few millimetres, as a captured hand does.
    motion.root[f * 3] += 0.004 * Math.sin(f);
  }
  return motion;
}

describe('hands that rest on the floor', () => {
  const motion = leaning();
  const observations = observeMotion(motion, camera, 1.7);

  it('are found where they are low, slow and seen, and no others', () => {
    const rests = handRests(motion, observations);
    expect(Object.keys(rests)).toEqual(['leftHand']);
    const flags = Array.from(rests.leftHand ?? []);
    expect(flags.slice(24, 48).every((flag) => flag === 1)).toBe(true);
    expect(flags.slice(0, 15).concat(flags.slice(56)).includes(1)).toBe(false);
  });

  it('stay in place when they are held', () => {
    const rests = handRests(motion, observations);
    const none = new Float64Array(FRAMES);
    const plants = plantsFrom({ leftHeel: none, leftToe: none, rightHeel: none, rightToe: none, ...rests });
    expect(plants).toHaveLength(1);
    const held = holdPlants(motion, plants);
    const wrist = jointIndex(motion.skeleton, 'leftHand');
    const travel = (one: Motion): number => {
      const places = worldPositions(one);
      const at = (f: number, k: number): number => places[(f * motion.skeleton.joints.length + wrist) * 3 + k];
      let most = 0;
      for (let f = 26; f < 46; f++) most = Math.max(most, Math.hypot(...[0, 1, 2].map((k) => at(f, k) - at(f - 1, k))));
      return most;
    };
    expect(travel(motion)).toBeGreaterThan(0.003);
    expect(travel(held)).toBeLessThan(1e-4);
  });

  it('are not believed while they are not seen, nor for a moment only', () => {
    const hidden = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < FRAMES; f++) hidden.marks[(f * MARK_COUNT + MARK.leftWrist) * 3 + 2] = 0.2;
    expect(handRests(motion, hidden)).toEqual({});
    const brief: Motion = { ...motion, root: motion.root.slice() };
    for (let f = 0; f < FRAMES; f++) if (Math.abs(f - 35) > 1) brief.root[f * 3 + 1] += 0.5;
    expect(handRests(brief, observations)).toEqual({});
  });
});
