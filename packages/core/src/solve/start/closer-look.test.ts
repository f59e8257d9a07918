import { quat, vec3 } from 'gl-matrix';
import { observeMotion, solveMade } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { emptyPose, poseAt, restMotion, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { emptyFaceObservations } from '../../observe/face';
import { emptyHandObservations } from '../../observe/hands';
import { closerLook, jointPalm, type Palm } from './closer-look';

const FLAT: Palm = { palm: [1, 0, 0], across: [0, 0, 0.5] };
/** A palm turned about its own length by so many degrees. */
const rolled = (degrees: number): Palm => {
  const turn = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], (degrees * Math.PI) / 180);
  return { palm: [2, 0, 0], across: vec3.transformQuat([0, 0, 0], [0, 0, 1], turn) };
};
const roll = ({ across }: Palm): number => (Math.atan2(across[1], -across[2]) * 180) / Math.PI;

describe('a palm that two networks see', () => {
  it('lies half way between what they tell', () => {
    const mean = jointPalm(FLAT, rolled(40));
    expect(Math.abs(Math.abs(roll(mean)) - 160)).toBeLessThan(1);
    expect(mean.palm[0]).toBeGreaterThan(0);
  });

  it('is the body’s where they differ too much, or where the hand was not seen', () => {
    expect(jointPalm(FLAT, rolled(90))).toBe(FLAT);
    expect(jointPalm(FLAT, undefined)).toBe(FLAT);
  });

  it('is mirrored in depth where only that agrees', () => {
    const { palm, across } = rolled(20);
    const flipped: Palm = { palm: [palm[0], palm[1], -palm[2]], across: [across[0], across[1], -across[2]] };
    const mean = jointPalm(FLAT, flipped);
    expect(mean.across[2]).toBeGreaterThan(0);
  });
});

describe('a closer look', () => {
  const frames = 40;
  const camera = lookAt([0, 1.3, 4.5], [0, 0.95, 0], 54, 960, 540);
  const motion: Motion = restMotion(humanoidSkeleton(averageProportions(1.7)), frames, 30);
  const seen = observeMotion(motion, camera, 1.7);

  it('tells nothing of what was not seen', () => {
    const hands = { left: emptyHandObservations(frames), right: emptyHandObservations(frames) };
    expect(closerLook({ hands, face: emptyFaceObservations(frames) }, 3)).toEqual({});
    expect(closerLook({}, 3)).toEqual({});
  });

  it('turns the head as the face is turned, in the whole solve', () => {
    const face = emptyFaceObservations(frames);
    face.presence.fill(1);
    // Looks 30° to its left, seen by a camera that looks down a little.
    const inWorld = quat.fromEuler(quat.create(), 0, 30, 0);
    const look = Math.asin(camera.axes[7]);
    const toCamera = quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], look);
    const turn = quat.multiply([0, 0, 0, 1], toCamera, inWorld);
    for (let f = 0; f < frames; f++) face.turn.set(turn as unknown as number[], f * 4);
    const yaw = (solved: Motion): number => {
      const pose = emptyPose(solved.skeleton);
      poseAt(solved, 20, pose);
      const head = jointIndex(solved.skeleton, 'head') * 4;
      const ahead = vec3.transformQuat([0, 0, 0], [0, 0, 1], [...pose.rotations.subarray(head, head + 4)] as quat);
      return (Math.atan2(ahead[0], ahead[2]) * 180) / Math.PI;
    };
    const options = { height: 1.7, fieldOfView: 54 };
    expect(Math.abs(yaw(solveMade(seen, options).motion))).toBeLessThan(6);
    expect(Math.abs(yaw(solveMade({ ...seen, face }, options).motion) - 30)).toBeLessThan(4);
  });

  it('keeps a camera tilt that was given', () => {
    const given = (tilt: number): number => {
      const { axes } = solveMade(seen, { height: 1.7, fieldOfView: 54, tilt }).camera;
      return (Math.asin(axes[7]) * 180) / Math.PI;
    };
    expect(given(12)).toBeCloseTo(12, 3);
    expect(given(0)).toBeCloseTo(0, 3);
  });
});
