import { averageProportions, humanoidSkeleton, SIDES } from '../../motion/humanoid';
import { restMotion, worldPositions, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { emptyBodyObservations, MARK, MARK_COUNT } from '../../observe/body';
import { legsUnseen } from '../observe/without-legs';
import { standUp } from './stand';

/** Performers who are filmed from the waist up. */
const FRAMES = 60;
const skeleton = humanoidSkeleton(averageProportions(1.7));

/** A body that sways, with legs that do whatever the network guesses. */
function guessed(path: (frame: number) => [number, number, number]): Motion {
  const motion = restMotion(skeleton, FRAMES, 30);
  for (let frame = 0; frame < FRAMES; frame++) {
    motion.root.set(path(frame), frame * 3);
    for (const side of SIDES)
      writeRotation(motion, jointIndex(skeleton, `${side}UpperLeg`), frame, [Math.sin(frame), 0, 0, Math.cos(frame)]);
  }
  return motion;
}
const placeOf = (motion: Motion, joint: string, frame: number): number[] => {
  const at = (frame * skeleton.joints.length + jointIndex(skeleton, joint)) * 3;
  return [...worldPositions(motion).subarray(at, at + 3)];
};

it('stand on both feet, which stay where they are while the hips sway', () => {
  const motion = standUp(guessed((frame) => [0.05 * Math.sin(frame / 9), 1.3, 0.04 * Math.cos(frame / 7)]));
  for (const side of SIDES) {
    const first = placeOf(motion, `${side}Foot`, 0);
    expect(first[1]).toBeCloseTo(0.044 * 1.7, 3);
    for (const frame of [10, 30, 59])
      placeOf(motion, `${side}Foot`, frame).forEach((value, k) =>
        expect(Math.abs(value - first[k])).toBeLessThan(2e-3),
      );
  }
  expect(placeOf(motion, 'leftFoot', 0)[0]).toBeGreaterThan(placeOf(motion, 'rightFoot', 0)[0] + 0.1);
  expect(placeOf(motion, 'hips', 20)[0]).toBeCloseTo(0.05 * Math.sin(20 / 9), 4);
});

it('bend their knees when the hips come down', () => {
  const motion = standUp(guessed((frame) => [0, frame >= 25 && frame < 35 ? 1 : 1.2, 0]));
  expect(placeOf(motion, 'hips', 0)[1] - placeOf(motion, 'hips', 30)[1]).toBeCloseTo(0.2, 3);
  expect(placeOf(motion, 'leftFoot', 30)[1]).toBeCloseTo(placeOf(motion, 'leftFoot', 0)[1], 3);
  expect(placeOf(motion, 'leftLowerLeg', 30)[2]).toBeGreaterThan(placeOf(motion, 'leftLowerLeg', 0)[2] + 0.05);
});

it('take their feet along when they go about', () => {
  const motion = standUp(guessed((frame) => [frame * 0.04, 1.2, 0]));
  expect(placeOf(motion, 'leftFoot', 45)[0]).toBeGreaterThan(placeOf(motion, 'leftFoot', 15)[0] + 0.7);
});

it('are those whose knees and ankles are hardly ever seen', () => {
  const seen = (sure: (frame: number) => number): boolean => {
    const observations = emptyBodyObservations(FRAMES, 30, 640, 360);
    for (let frame = 0; frame < FRAMES; frame++) {
      observations.presence[frame] = 1;
      for (let mark = 0; mark < MARK_COUNT; mark++)
        observations.marks.set([100, 100, mark >= MARK.leftKnee ? sure(frame) : 0.9], (frame * MARK_COUNT + mark) * 3);
    }
    return legsUnseen(observations);
  };
  expect(seen(() => 0.02)).toBe(true);
  expect(seen((frame) => (frame < 40 ? 0.02 : 0.8))).toBe(false);
  expect(seen(() => 0.8)).toBe(false);
});
