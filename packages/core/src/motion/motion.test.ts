import { quat } from 'gl-matrix';
import { exampleMotion, farthest, turnedAtRest } from '../../test/example-motion';
import { averageProportions, humanoidSkeleton, mirrorName, standingHipHeight } from './humanoid';
import { alignSigns, emptyPose, poseAt, restMotion, worldPositions, writeRotation } from './motion';
import { withStraightRest } from './straight-rest';
import { chainOf, checkSkeleton, jointIndex, restPositions } from './skeleton';

describe('skeleton', () => {
  it('stands on the floor in T-pose with its crown at its height', () => {
    const p = averageProportions(1.8);
    const skeleton = humanoidSkeleton(p, true);
    checkSkeleton(skeleton);
    const rest = restPositions(skeleton);
    const head = jointIndex(skeleton, 'head');
    expect(rest[1]).toBeCloseTo(standingHipHeight(p), 9);
    expect(rest[head * 3 + 1] + (skeleton.joints[head].tip?.[1] ?? 0)).toBeCloseTo(1.8, 2);
    expect(rest[jointIndex(skeleton, 'leftFoot') * 3 + 1]).toBeCloseTo(p.ankle, 9);
    expect(skeleton.joints.filter((joint) => /Thumb|Index|Middle|Ring|Little/.test(joint.name))).toHaveLength(30);
  });

  it('is the same on both sides', () => {
    const skeleton = humanoidSkeleton(averageProportions(1.7), true);
    const rest = restPositions(skeleton);
    skeleton.joints.forEach((joint, i) => {
      const other = jointIndex(skeleton, mirrorName(joint.name));
      expect(rest[other * 3]).toBeCloseTo(-rest[i * 3], 9);
      expect(rest[other * 3 + 1]).toBeCloseTo(rest[i * 3 + 1], 9);
    });
  });

  it.each([
    [[], 'at least one joint'],
    [
      [
        { name: 'a', parent: -1, offset: [0, 0, 0] as const },
        { name: 'a', parent: 0, offset: [0, 0, 0] as const },
      ],
      'Two joints are called "a"',
    ],
    [
      [
        { name: 'a', parent: -1, offset: [0, 0, 0] as const },
        { name: 'b', parent: 1, offset: [0, 0, 0] as const },
      ],
      '"b" must hang on',
    ],
  ])('refuses a broken one', (joints, message) => {
    expect(() => checkSkeleton({ joints })).toThrow(message);
  });
});

describe('forward kinematics', () => {
  it('carries a turn down the chain', () => {
    const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 1, 30);
    const arm = jointIndex(motion.skeleton, 'leftUpperArm');
    const hand = jointIndex(motion.skeleton, 'leftHand');
    const before = worldPositions(motion);
    const length = before[hand * 3] - before[arm * 3];
    writeRotation(motion, arm, 0, quat.fromEuler(quat.create(), 0, 0, 90));
    const after = worldPositions(motion);
    expect(after[hand * 3]).toBeCloseTo(before[arm * 3], 5);
    expect(after[hand * 3 + 1]).toBeCloseTo(before[arm * 3 + 1] + length, 5);
  });

  it('keeps every bone as long as it is', () => {
    const motion = exampleMotion();
    const pose = poseAt(motion, 17, emptyPose(motion.skeleton));
    motion.skeleton.joints.forEach((joint, i) => {
      if (joint.parent < 0) return;
      const d = [0, 1, 2].map((k) => pose.positions[i * 3 + k] - pose.positions[joint.parent * 3 + k]);
      expect(Math.hypot(...d)).toBeCloseTo(Math.hypot(...joint.offset), 6);
    });
  });

  it('gives the same places after signs are aligned', () => {
    const motion = exampleMotion(20);
    const before = worldPositions(motion);
    for (let i = 40; i < 80; i++) motion.rotations[i] *= -1;
    alignSigns(motion);
    expect(farthest(before, worldPositions(motion))).toBeLessThan(1e-6);
    for (let f = 1; f < 20; f++) {
      let dot = 0;
      for (let k = 0; k < 4; k++) dot += motion.rotations[f * 4 + k] * motion.rotations[f * 4 - 4 + k];
      expect(dot).toBeGreaterThan(0);
    }
  });
});

describe('a chain of joints', () => {
  const motion = exampleMotion(6);
  const { skeleton } = motion;
  const hand = jointIndex(skeleton, 'leftHand');
  const foot = jointIndex(skeleton, 'rightFoot');
  const chain = chainOf(skeleton, [hand, foot]);

  it('is all that the joints hang on, parents first, each once', () => {
    const names = [...chain].map((joint) => skeleton.joints[joint].name);
    expect(names[0]).toBe('hips');
    expect(names).toContain('leftUpperArm');
    expect(names).toContain('rightLowerLeg');
    expect(names).not.toContain('rightHand');
    expect(new Set(names).size).toBe(names.length);
    chain.forEach((joint, i) => {
      const { parent } = skeleton.joints[joint];
      expect(parent < 0 || [...chain.subarray(0, i)].includes(parent)).toBe(true);
    });
  });

  it('is posed as in the whole body, and nothing else is touched', () => {
    const whole = poseAt(motion, 4, emptyPose(skeleton));
    const part = poseAt(motion, 4, emptyPose(skeleton), chain);
    for (const joint of chain) {
      for (let k = 0; k < 3; k++) expect(part.positions[joint * 3 + k]).toBe(whole.positions[joint * 3 + k]);
      for (let k = 0; k < 4; k++) expect(part.rotations[joint * 4 + k]).toBe(whole.rotations[joint * 4 + k]);
    }
    const other = jointIndex(skeleton, 'rightHand');
    expect([...part.positions.subarray(other * 3, other * 3 + 3)]).toEqual([0, 0, 0]);
  });
});

describe('a skeleton whose joints are turned at rest', () => {
  const motion = exampleMotion(20);
  const turned = turnedAtRest(motion);

  it('stands and moves as the same body does', () => {
    expect(farthest(restPositions(turned.skeleton), restPositions(motion.skeleton))).toBeLessThan(1e-9);
    expect(farthest(worldPositions(turned), worldPositions(motion))).toBeLessThan(1e-5);
    const still = restMotion(turned.skeleton, 1, 30);
    expect(farthest(worldPositions(still), restPositions(motion.skeleton))).toBeLessThan(1e-6);
  });

  it('is told without these turns for formats that know none', () => {
    const straight = withStraightRest(turned);
    expect(straight.skeleton.joints.every(({ rest }) => rest === undefined)).toBe(true);
    straight.skeleton.joints.forEach(({ offset }, j) =>
      offset.forEach((value, k) => expect(value).toBeCloseTo(motion.skeleton.joints[j].offset[k], 6)),
    );
    expect(farthest(worldPositions(straight), worldPositions(motion))).toBeLessThan(1e-5);
    expect(withStraightRest(motion)).toBe(motion);
  });
});
