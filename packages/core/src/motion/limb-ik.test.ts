import { quat, vec3 } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from './humanoid';
import { limbLengths, reachFor, STRETCH_LIMIT, turnInWorld, type Limb } from './limb-ik';
import { emptyPose, poseAt, restMotion, writeRotation, type Motion } from './motion';
import { jointIndex } from './skeleton';

const skeleton = humanoidSkeleton(averageProportions(1.7));
const limb = (parts: string[]): Limb => {
  const [upper, lower, end] = parts.map((name) => jointIndex(skeleton, name));
  return { upper, lower, end };
};
const LEG = limb(['leftUpperLeg', 'leftLowerLeg', 'leftFoot']);
const ARM = limb(['rightUpperArm', 'rightLowerArm', 'rightHand']);
const UPRIGHT: quat = [0, 0, 0, 1];

/** Brings a limb of a motion's first frame to a place; gives where its end and its middle joint are then. */
function reach(motion: Motion, of: Limb, place: vec3, endTurn = UPRIGHT) {
  const pose = emptyPose(motion.skeleton);
  poseAt(motion, 0, pose);
  const short = reachFor(motion, pose, 0, of, place, endTurn);
  poseAt(motion, 0, pose);
  const at = (joint: number): vec3 => [...pose.positions.subarray(joint * 3, joint * 3 + 3)] as vec3;
  const turn = [...pose.rotations.subarray(of.end * 4, of.end * 4 + 4)];
  return { short, end: at(of.end), middle: at(of.lower), upper: at(of.upper), turn };
}

describe('bringing a limb to a place', () => {
  it.each([
    ['a leg, up and ahead', LEG, [0.15, 0.35, 0.25]],
    ['a leg, to the side', LEG, [0.45, 0.3, -0.05]],
    ['an arm, to the front', ARM, [-0.3, 1.2, 0.3]],
    ['an arm, over the head', ARM, [-0.25, 1.75, 0.1]],
  ] as const)('works for %s', (_, of, place) => {
    const { end, short } = reach(restMotion(skeleton, 1, 30), of, [...place]);
    expect(vec3.distance(end, [...place])).toBeLessThan(1e-5);
    expect(short).toBeCloseTo(0, 6);
  });

  it('bends a straight knee to the front and a straight elbow the way elbows go', () => {
    const leg = reach(restMotion(skeleton, 1, 30), LEG, [0.1, 0.3, 0]);
    expect(leg.middle[2]).toBeGreaterThan(0.1);
    const arm = reach(restMotion(skeleton, 1, 30), ARM, [-0.45, 1.35, 0]);
    expect(arm.middle[2]).toBeLessThan(-0.02);
  });

  it('keeps the plane that a limb bends in already', () => {
    const motion = restMotion(skeleton, 1, 30);
    writeRotation(motion, LEG.upper, 0, quat.fromEuler(quat.create(), -30, 40, 0));
    writeRotation(motion, LEG.lower, 0, quat.fromEuler(quat.create(), 60, 0, 0));
    const pose = emptyPose(skeleton);
    poseAt(motion, 0, pose);
    const place = vec3.add([0, 0, 0], [...pose.positions.subarray(LEG.end * 3, LEG.end * 3 + 3)] as vec3, [0, 0.04, 0]);
    const knee = [...pose.positions.subarray(LEG.lower * 3, LEG.lower * 3 + 3)] as vec3;
    const { middle, end } = reach(motion, LEG, place);
    expect(vec3.distance(end, place)).toBeLessThan(1e-5);
    expect(vec3.distance(middle, knee)).toBeLessThan(0.06);
  });

  it.each([-4, -1, 0, 1, 4])('takes a leg bent to the side by %s° as straight: its knee goes ahead', (degrees) => {
    const motion = restMotion(skeleton, 1, 30);
    writeRotation(motion, LEG.lower, 0, quat.fromEuler(quat.create(), 1, 0, degrees));
    const { middle, end } = reach(motion, LEG, [0.1, 0.25, 0]);
    expect(vec3.distance(end, [0.1, 0.25, 0])).toBeLessThan(1e-5);
    expect(middle[2]).toBeGreaterThan(0.2);
    expect(Math.abs(middle[0] - 0.1)).toBeLessThan(0.12);
  });

  it.each([3, -3, -5.73, -9])('brings a knee bent by %s° to the front, whichever way it was bent', (degrees) => {
    const motion = restMotion(skeleton, 1, 30);
    writeRotation(motion, LEG.lower, 0, quat.fromEuler(quat.create(), degrees, 0, 0));
    const { middle, end } = reach(motion, LEG, [0.1, 0.25, 0]);
    expect(vec3.distance(end, [0.1, 0.25, 0])).toBeLessThan(1e-5);
    expect(middle[2]).toBeGreaterThan(0.2);
  });

  it('stops short of a place out of reach, nearly straight, and says by how much', () => {
    const [a, b] = limbLengths({ skeleton }, LEG);
    const { end, upper, short } = reach(restMotion(skeleton, 1, 30), LEG, [0.1, -0.4, 0]);
    expect(vec3.distance(upper, end)).toBeCloseTo((a + b) * STRETCH_LIMIT, 4);
    expect(short).toBeCloseTo(vec3.distance(upper, [0.1, -0.4, 0]) - (a + b) * STRETCH_LIMIT, 4);
  });

  it('turns the end as it is told, whatever the limb does', () => {
    const wanted = quat.fromEuler(quat.create(), 10, 30, -5);
    const { turn } = reach(restMotion(skeleton, 1, 30), LEG, [0.2, 0.4, 0.2], wanted);
    expect(Math.abs(quat.dot(turn as quat, wanted))).toBeCloseTo(1, 6);
  });
});

describe('turning a joint in the world', () => {
  it('turns what hangs on it about that axis, under a turned parent too', () => {
    const motion = restMotion(skeleton, 1, 30);
    writeRotation(motion, 0, 0, quat.fromEuler(quat.create(), 0, 90, 0));
    const pose = emptyPose(skeleton);
    poseAt(motion, 0, pose);
    const above = [...pose.rotations.subarray(0, 4)] as quat;
    turnInWorld(motion, 0, LEG.upper, above, 0, quat.fromEuler(quat.create(), 0, 0, 90));
    poseAt(motion, 0, pose);
    // The leg hung down; a quarter about the world's Z brings it to +X.
    const line = [0, 1, 2].map((k) => pose.positions[LEG.end * 3 + k] - pose.positions[LEG.upper * 3 + k]);
    expect(line[0]).toBeGreaterThan(0.7);
    expect(Math.abs(line[1])).toBeLessThan(0.02);
  });
});
