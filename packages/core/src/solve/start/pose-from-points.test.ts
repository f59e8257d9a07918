import { describe, expect, it } from '@jest/globals';
import { quat, vec3 } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { emptyPose, poseAt, restMotion, writeRotation, type Motion } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { MARK, MARK_COUNT, type MarkName } from '../../observe/body';
import { PoseFromPoints } from './pose-from-points';

const skeleton = humanoidSkeleton(averageProportions(1.7));
const joint = (name: string): number => jointIndex(skeleton, name);

/** Points at the joints of a pose, with hands, feet and head a little beyond them. */
function pointsOf(motion: Motion): Float64Array {
  const pose = emptyPose(skeleton);
  poseAt(motion, 0, pose);
  const points = new Float64Array(MARK_COUNT * 3);
  const put = (mark: string, at: string, offset: vec3 = [0, 0, 0]): void => {
    const j = joint(at);
    const turn = [...pose.rotations.subarray(j * 4, j * 4 + 4)] as quat;
    const own = vec3.transformQuat([0, 0, 0], offset, turn);
    points.set(
      [0, 1, 2].map((k) => own[k] + pose.positions[j * 3 + k]),
      MARK[mark as MarkName] * 3,
    );
  };
  for (const [side, s] of [
    ['left', 1],
    ['right', -1],
  ] as const) {
    put(`${side}Shoulder`, `${side}UpperArm`);
    put(`${side}Elbow`, `${side}LowerArm`);
    put(`${side}Wrist`, `${side}Hand`);
    put(`${side}Index`, `${side}Hand`, [s * 0.09, 0, 0.03]);
    put(`${side}Pinky`, `${side}Hand`, [s * 0.09, 0, -0.03]);
    put(`${side}Hip`, `${side}UpperLeg`);
    put(`${side}Knee`, `${side}LowerLeg`);
    put(`${side}Ankle`, `${side}Foot`);
    put(`${side}Heel`, `${side}Foot`, [0, 0, -0.05]);
    put(`${side}FootIndex`, `${side}Foot`, [0, 0, 0.15]);
    put(`${side}Ear`, 'head', [s * 0.07, 0.05, 0]);
  }
  put('nose', 'head', [0, 0.036, 0.1]);
  return points;
}

/** A pose set by turns about its joints' own axes, degrees. */
function posed(turns: Record<string, [number, number, number]>): Motion {
  const motion = restMotion(skeleton, 1, 30);
  for (const [name, [x, y, z]] of Object.entries(turns))
    writeRotation(motion, joint(name), 0, quat.fromEuler([0, 0, 0, 1], x, y, z));
  return motion;
}

/** Greatest distance between the limb joints of a pose and those it is solved to, metres. */
function astray(motion: Motion): number {
  const solved = restMotion(skeleton, 1, 30);
  new PoseFromPoints(skeleton).solve(pointsOf(motion), 0).forEach((turn, j) => writeRotation(solved, j, 0, turn));
  const [a, b] = [emptyPose(skeleton), emptyPose(skeleton)];
  poseAt(motion, 0, a);
  poseAt(solved, 0, b);
  const off = skeleton.joints.map(({ name }, j) =>
    /Arm$|Leg$|Hand$|Foot$/.test(name)
      ? Math.hypot(...[0, 1, 2].map((k) => a.positions[j * 3 + k] - b.positions[j * 3 + k]))
      : 0,
  );
  return Math.max(...off);
}

describe('the elbow of a nearly straight arm', () => {
  it.each([
    ['up', 80],
    ['straight up', 90],
    ['out', 0],
    ['down', -85],
    ['straight down', -90],
  ])('is no twist, with the arm held %s', (_, lift) => {
    // A few degrees to and fro, as the network's points shake.
    for (const bend of [-8, -2, 3, 9]) {
      const turns = new PoseFromPoints(skeleton).solve(
        pointsOf(posed({ leftUpperArm: [0, 0, lift], leftLowerArm: [0, bend, bend / 2] })),
        0,
      );
      const [x, y, , w] = turns[joint('leftLowerArm')];
      // The hinge keeps what turns about its axis; a twist of half a turn would leave it nothing to go by.
      expect(Math.hypot(y, w)).toBeGreaterThan(0.7);
      expect(Math.abs(2 * Math.atan2(x, w))).toBeLessThan(1.6);
    }
  });
});

describe('a pose from points', () => {
  it.each([
    ['the rest pose', {}],
    ['arms that hang', { leftUpperArm: [0, 0, -80], rightUpperArm: [0, 0, 80] }],
    ['elbows bent ahead', { leftLowerArm: [0, -90, 0], rightLowerArm: [0, 60, 0] }],
    [
      'a crouch',
      { leftUpperLeg: [-70, 0, 0], leftLowerLeg: [100, 0, 0], rightUpperLeg: [-60, 0, 0], rightLowerLeg: [90, 0, 0] },
    ],
    ['a body turned about', { hips: [0, 140, 0], leftLowerArm: [0, -50, 0] }],
    ['a body bent ahead', { hips: [50, 20, 0], rightUpperLeg: [-30, 0, 0] }],
  ] as [string, Record<string, [number, number, number]>][])('is found again: %s', (_, turns) => {
    expect(astray(posed(turns))).toBeLessThan(0.03);
  });

  it('takes directions alone: points of a body twice as large give the same turns', () => {
    const points = pointsOf(posed({ leftLowerArm: [0, -70, 0] }));
    const poser = new PoseFromPoints(skeleton);
    const once = poser.solve(points, 0);
    poser
      .solve(
        points.map((value) => value * 2),
        0,
      )
      .forEach((turn, j) => expect(Math.abs(quat.dot(turn, once[j]))).toBeCloseTo(1, 6));
  });

  it('believes the face of the head where it was seen', () => {
    const aside = quat.fromEuler([0, 0, 0, 1], 0, 40, 0);
    const turns = new PoseFromPoints(skeleton).solve(pointsOf(posed({})), 0, { head: aside });
    const world = ['hips', 'spine', 'chest', 'upperChest', 'neck', 'head'].reduce(
      (all, name) => quat.multiply([0, 0, 0, 1], all, turns[joint(name)]),
      [0, 0, 0, 1] as quat,
    );
    expect(Math.abs(quat.dot(world, aside))).toBeCloseTo(1, 6);
  });
});
