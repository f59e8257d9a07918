import { quat, vec3 } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { emptyPose, poseAt, readRotation, restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { copyPose, mirrorPose, pastePose } from './copied-pose';
import { dragPose, turnPose } from './drag-pose';
import { handlesOf } from './handles';
import { findSnags } from '../snags/registry';
import { holdTethers, placeNow, Tether, tetherMiss } from './tether';

const skeleton = humanoidSkeleton(averageProportions(1.7), true);

/** Somebody with slightly bent limbs, turned a little to the side. */
function easyStand(): Motion {
  const motion = restMotion(skeleton, 1, 30);
  const turn = (joint: string, x: number, y: number, z: number): void =>
    writeRotation(motion, jointIndex(skeleton, joint), 0, quat.fromEuler(quat.create(), x, y, z));
  turn('hips', 3, 25, 0);
  turn('leftUpperArm', 0, -10, -60);
  turn('rightUpperArm', 0, 10, 60);
  turn('leftLowerArm', 0, -30, 0);
  turn('rightLowerArm', 0, 30, 0);
  for (const side of ['left', 'right']) {
    turn(`${side}UpperLeg`, -15, 0, 0);
    turn(`${side}LowerLeg`, 28, 0, 0);
    turn(`${side}Foot`, -13, 0, 0);
  }
  return motion;
}

function place(motion: Motion, joint: string): vec3 {
  const pose = poseAt(motion, 0, emptyPose(skeleton));
  const at = jointIndex(skeleton, joint) * 3;
  return [pose.positions[at], pose.positions[at + 1], pose.positions[at + 2]];
}

function worldTurn(motion: Motion, joint: string): quat {
  const pose = poseAt(motion, 0, emptyPose(skeleton));
  return [...pose.rotations.subarray(jointIndex(skeleton, joint) * 4).slice(0, 4)] as quat;
}

const moved = (from: Motion, joint: string, by: vec3): vec3 => vec3.add(vec3.create(), place(from, joint), by);
const off = (a: Motion, b: Motion, joint: string): number => vec3.distance(place(a, joint), place(b, joint));
const sameTurn = (a: quat, b: quat): number => Math.abs(quat.dot(a, b));

describe('dragging', () => {
  const start = easyStand();

  it.each(['leftHand', 'rightHand', 'leftFoot', 'rightFoot'])('brings %s to a place by its limb alone', (joint) => {
    const target = moved(start, joint, [0.05, 0.08, 0.06]);
    const out = dragPose(start, joint, target);
    expect(vec3.distance(place(out, joint), target)).toBeLessThan(1e-4);
    expect(sameTurn(worldTurn(out, joint), worldTurn(start, joint))).toBeCloseTo(1, 5);
    for (const other of ['hips', 'head', joint.startsWith('left') ? 'rightHand' : 'leftHand'])
      expect(off(out, start, other)).toBe(0);
  });

  it('turns an elbow about the arm, and leaves the hand where it is', () => {
    const out = dragPose(start, 'leftLowerArm', moved(start, 'leftLowerArm', [0, 0.2, -0.1]));
    expect(off(out, start, 'leftHand')).toBeLessThan(1e-4);
    expect(place(out, 'leftLowerArm')[1]).toBeGreaterThan(place(start, 'leftLowerArm')[1] + 0.03);
    expect(sameTurn(worldTurn(out, 'leftHand'), worldTurn(start, 'leftHand'))).toBeCloseTo(1, 5);
  });

  it('moves the hips with feet that stay', () => {
    const target = moved(start, 'hips', [0.04, -0.12, 0.03]);
    const out = dragPose(start, 'hips', target);
    expect(vec3.distance(place(out, 'hips'), target)).toBeLessThan(1e-6);
    for (const foot of ['leftFoot', 'rightFoot']) {
      expect(off(out, start, foot)).toBeLessThan(1e-4);
      expect(sameTurn(worldTurn(out, foot), worldTurn(start, foot))).toBeCloseTo(1, 5);
    }
  });

  it('bends the trunk towards a place by all its joints', () => {
    const far = vec3.distance(place(start, 'upperChest'), place(start, 'spine'));
    const target = moved(start, 'upperChest', [0, -0.03, 0.12]);
    const out = dragPose(start, 'upperChest', target);
    expect(vec3.distance(place(out, 'upperChest'), target)).toBeLessThan(0.03);
    expect(vec3.distance(place(out, 'upperChest'), place(out, 'spine'))).toBeGreaterThan(far * 0.9);
    for (const joint of ['spine', 'chest']) {
      const index = jointIndex(skeleton, joint);
      const turn = readRotation(out, index, 0, quat.create());
      expect(2 * Math.acos(turn[3])).toBeGreaterThan(0.05);
    }
    expect(off(out, start, 'leftFoot')).toBe(0);
  });

  it('lets the whole body follow a hand beyond its reach, while feet and the other hand stay', () => {
    const target = moved(start, 'leftHand', [0.15, -0.35, 0.45]);
    expect(vec3.distance(place(dragPose(start, 'leftHand', target), 'leftHand'), target)).toBeGreaterThan(0.02);
    const out = dragPose(start, 'leftHand', target, 'body');
    expect(vec3.distance(place(out, 'leftHand'), target)).toBeLessThan(2e-3);
    for (const joint of ['leftFoot', 'rightFoot', 'rightHand']) expect(off(out, start, joint)).toBeLessThan(2e-3);
    expect(off(out, start, 'neck')).toBeGreaterThan(0.05);
  });

  it('moves trunk and hips little for what the arm reaches alone', () => {
    const out = dragPose(start, 'rightHand', moved(start, 'rightHand', [-0.03, 0.05, 0.04]), 'body');
    expect(off(out, start, 'hips')).toBeLessThan(0.015);
  });

  it('turns a joint in the world, and knows the joints that a skeleton has', () => {
    const turn = quat.setAxisAngle(quat.create(), [0, 1, 0], 0.4);
    const out = turnPose(start, 'head', turn);
    const expected = quat.multiply(quat.create(), turn, worldTurn(start, 'head'));
    expect(sameTurn(worldTurn(out, 'head'), expected)).toBeCloseTo(1, 6);
    expect(handlesOf(skeleton)).toHaveLength(13);
    expect(handlesOf({ joints: skeleton.joints.filter(({ name }) => !name.startsWith('left')) })).toHaveLength(8);
    expect(() => dragPose(start, 'tail', [0, 0, 0])).toThrow('no handle at "tail"');
  });
});

describe('copied poses', () => {
  it('come back on the same frame, and on another place and facing', () => {
    const start = easyStand();
    const pose = copyPose(start);
    const back = pastePose(start, pose);
    back.rotations.forEach((value, i) => expect(value).toBeCloseTo(start.rotations[i], 6));
    const turned = restMotion(skeleton, 1, 30);
    turned.root.set([1, 0.9, 2], 0);
    writeRotation(turned, 0, 0, quat.fromEuler(quat.create(), 0, 100, 0));
    const pasted = pastePose(turned, pose);
    expect([...pasted.root]).toEqual([...turned.root]);
    const local = (m: Motion, joint: string): vec3 => {
      const way = vec3.subtract(vec3.create(), place(m, joint), place(m, 'hips'));
      const facing = quat.fromEuler(quat.create(), 0, m === pasted ? -100 : -25, 0);
      return vec3.transformQuat(way, way, facing);
    };
    for (const joint of ['leftHand', 'rightFoot', 'head'])
      expect(vec3.distance(local(pasted, joint), local(start, joint))).toBeLessThan(0.01);
  });

  it('are mirrored: the left hand goes where the right one would be', () => {
    const start = easyStand();
    writeRotation(start, 0, 0, [0, 0, 0, 1]);
    const raised = dragPose(start, 'leftHand', moved(start, 'leftHand', [0.1, 0.3, 0.1]));
    const mirrored = pastePose(raised, mirrorPose(copyPose(raised)));
    const [left, right] = [place(raised, 'leftHand'), place(mirrored, 'rightHand')];
    expect(vec3.distance([-left[0], left[1], left[2]], right)).toBeLessThan(1e-4);
    const twice = pastePose(mirrored, mirrorPose(copyPose(mirrored)));
    expect(off(twice, raised, 'leftHand')).toBeLessThan(1e-4);
  });
});

describe('a tether', () => {
  /** Somebody who walks on and sways. */
  const walk = restMotion(skeleton, 40, 30);
  for (let frame = 0; frame < 40; frame++) {
    walk.root[frame * 3 + 2] = frame * 0.005;
    for (const side of ['left', 'right']) {
      const k = side === 'left' ? 1 : -1;
      const turn = (joint: string, x: number, y: number, z: number): void =>
        writeRotation(walk, jointIndex(skeleton, side + joint), frame, quat.fromEuler(quat.create(), x, y, z));
      turn('UpperArm', 0, -20 * k, k * (-50 + frame / 2));
      turn('LowerArm', 0, -60 * k, 0);
      turn('UpperLeg', -20, 0, 0);
      turn('LowerLeg', 40, 0, 0);
    }
  }
  const at = (motion: Motion, joint: string, frame: number): vec3 => {
    const pose = poseAt(motion, frame, emptyPose(skeleton));
    const index = jointIndex(skeleton, joint) * 3;
    return [pose.positions[index], pose.positions[index + 1], pose.positions[index + 2]];
  };
  const held = (fields: object): Tether =>
    Tether.parse({ joint: 'leftHand', to: null, place: [0, 0, 0], from: 10, until: 20, ease: 4, ...fields });

  it('holds a hand at a place, comes in and goes out, and leaves the rest', () => {
    const place = placeNow(walk, 'leftHand', null, 15);
    const out = holdTethers(walk, [held({ place })]);
    for (let frame = 10; frame < 20; frame++)
      expect(vec3.distance(at(out, 'leftHand', frame), place)).toBeLessThan(1e-4);
    expect(vec3.distance(at(out, 'leftHand', 7), at(walk, 'leftHand', 7))).toBeGreaterThan(1e-4);
    expect(vec3.distance(at(out, 'leftHand', 4), at(walk, 'leftHand', 4))).toBeLessThan(1e-6);
    for (const joint of ['rightHand', 'leftFoot', 'head'])
      expect(vec3.distance(at(out, joint, 15), at(walk, joint, 15))).toBe(0);
  });

  it('holds it to another joint, wherever that goes', () => {
    const place = placeNow(walk, 'leftHand', 'rightHand', 15);
    const out = holdTethers(walk, [held({ to: 'rightHand', place })]);
    const pose = poseAt(out, 12, emptyPose(skeleton));
    const right = jointIndex(skeleton, 'rightHand');
    const turn = [...pose.rotations.subarray(right * 4, right * 4 + 4)] as quat;
    const wanted = vec3.transformQuat(vec3.create(), place, turn);
    vec3.add(wanted, wanted, at(out, 'rightHand', 12));
    expect(vec3.distance(at(out, 'leftHand', 12), wanted)).toBeLessThan(1e-4);
    expect(vec3.distance(at(out, 'leftHand', 15), at(walk, 'leftHand', 15))).toBeLessThan(1e-4);
  });

  it('holds the hips with feet that stay', () => {
    const place = placeNow(walk, 'hips', null, 10);
    const out = holdTethers(walk, [held({ joint: 'hips', place })]);
    for (let frame = 10; frame < 20; frame++) {
      expect(vec3.distance(at(out, 'hips', frame), place)).toBeLessThan(1e-6);
      expect(vec3.distance(at(out, 'leftFoot', frame), at(walk, 'leftFoot', frame))).toBeLessThan(1e-3);
    }
  });

  it('reaches no farther than the limb, and does nothing for joints that are not there', () => {
    const out = holdTethers(walk, [held({ place: [9, 1, 0] })]);
    const reach =
      vec3.distance(at(walk, 'leftUpperArm', 15), at(walk, 'leftLowerArm', 15)) +
      vec3.distance(at(walk, 'leftLowerArm', 15), at(walk, 'leftHand', 15));
    expect(vec3.distance(at(out, 'leftUpperArm', 15), at(out, 'leftHand', 15))).toBeLessThanOrEqual(reach + 1e-6);
    expect(holdTethers(walk, [held({ to: 'tail' })])).toBe(walk);
    expect(holdTethers(walk, [held({ from: 60, until: 70 })])).toBe(walk);
  });

  it('agrees with others that hang on it, whatever their order', () => {
    const onto = held({ to: 'rightHand', place: placeNow(walk, 'leftHand', 'rightHand', 15) });
    const [x, y, z] = placeNow(walk, 'rightHand', null, 15);
    const right = held({ joint: 'rightHand', place: [x + 0.04, y + 0.05, z - 0.03] });
    for (const both of [
      [onto, right],
      [right, onto],
    ]) {
      const out = holdTethers(walk, both);
      for (const tether of both) expect(tetherMiss(out, tether)).toBeLessThan(2e-3);
    }
  });

  it('lets the body give way where the limb does not reach, and tells what is missed', () => {
    const shoulder = at(walk, 'leftUpperArm', 15);
    const place: [number, number, number] = [shoulder[0] + 0.2, shoulder[1] - 0.1, shoulder[2] + 0.75];
    const [limb, body] = (['limb', 'body'] as const).map((follow) => held({ place, follow }));
    const missed = tetherMiss(holdTethers(walk, [limb]), limb) ?? 0;
    expect(missed).toBeGreaterThan(0.1);
    const out = holdTethers(walk, [body]);
    expect(tetherMiss(out, body)).toBeLessThan(0.01);
    for (const foot of ['leftFoot', 'rightFoot'])
      expect(vec3.distance(at(out, foot, 15), at(walk, foot, 15))).toBeLessThan(5e-3);
    // It comes in over frames: nothing jumps.
    for (let frame = 1; frame < 40; frame++)
      expect(vec3.distance(at(out, 'hips', frame), at(out, 'hips', frame - 1))).toBeLessThan(0.09);
    const snags = findSnags({ motion: holdTethers(walk, [limb]), plants: [], tethers: [limb], bridged: null });
    expect(snags.find(({ kind }) => kind === 'stretch')).toMatchObject({ joint: 'leftHand', from: 10, until: 20 });
    expect(tetherMiss(walk, held({ from: 60, until: 70 }))).toBeNull();
  });
});
