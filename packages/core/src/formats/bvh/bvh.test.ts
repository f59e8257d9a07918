import { quat } from 'gl-matrix';
import { exampleMotion, farthest } from '../../../test/example-motion';
import { worldPositions } from '../../motion/motion';
import { eulerFromQuaternion, quaternionFromEuler } from '../../motion/euler';
import { BvhError, readBvh } from './read-bvh';
import { writeBvh } from './write-bvh';

describe('Euler angles', () => {
  const orders = ['XYZ', 'XZY', 'YXZ', 'YZX', 'ZXY', 'ZYX'];
  it.each(orders)('come back in the order %s', (order) => {
    for (const angles of [
      [20, 30, 40],
      [-100, 80, 170],
      [5, -89, 12],
      [90, 90, 0],
      [10, -90, 0],
    ]) {
      const turn = quaternionFromEuler(angles, order);
      const again = quaternionFromEuler(eulerFromQuaternion(turn, order), order);
      expect(Math.abs(quat.dot(turn, again))).toBeCloseTo(1, 9);
    }
  });
});

describe('BVH', () => {
  it.each([1, 100])('comes back the same at %d units to the metre', (unitsPerMetre) => {
    const motion = exampleMotion(50);
    const again = readBvh(writeBvh(motion, { unitsPerMetre }), { unitsPerMetre });
    expect(again.frames).toBe(50);
    expect(again.rate).toBeCloseTo(30, 4);
    expect(again.skeleton.joints.map((joint) => joint.name).sort()).toEqual(
      motion.skeleton.joints.map((joint) => joint.name).sort(),
    );
    const order = motion.skeleton.joints.map((joint) =>
      again.skeleton.joints.findIndex((other) => other.name === joint.name),
    );
    const [a, b] = [worldPositions(motion), worldPositions(again)];
    const n = order.length;
    for (let f = 0; f < 50; f++)
      order.forEach((to, from) =>
        expect(
          farthest(
            a.subarray((f * n + from) * 3, (f * n + from) * 3 + 3),
            b.subarray((f * n + to) * 3, (f * n + to) * 3 + 3),
          ),
        ).toBeLessThan(2e-5),
      );
  });

  it('writes angles that never jump, through a whole turn', () => {
    const motion = exampleMotion(60);
    for (let f = 0; f < 60; f++)
      motion.rotations.set(
        quat.setAxisAngle(quat.create(), [0, 1, 0], (f * 14 * Math.PI) / 180) as Float32Array,
        f * 4,
      );
    const rows = writeBvh(motion)
      .split('Frame Time')[1]
      .trim()
      .split('\n')
      .slice(1)
      .map((line) => line.split(' ').map(Number));
    for (let f = 1; f < rows.length; f++)
      rows[f].slice(3).forEach((value, i) => expect(Math.abs(value - rows[f - 1][3 + i])).toBeLessThan(60));
    expect(Math.abs(rows[59][5])).toBeGreaterThan(700);
  });

  it('reads other names, orders and units', () => {
    const text = `HIERARCHY
ROOT Base Joint
{
  OFFSET 0 95 0
  CHANNELS 6 Yposition Xposition Zposition Yrotation Xrotation Zrotation
  JOINT Stück
  {
    OFFSET 0 50 0
    CHANNELS 3 Xrotation Yrotation Zrotation
    End Site
    {
      OFFSET 0 30 0
    }
  }
}
MOTION
Frames: 2
Frame Time: 0.04
90 10 5 90 0 0 0 0 0
91 11 5 0 0 0 90 0 0
`;
    const motion = readBvh(text);
    expect(motion.rate).toBe(25);
    expect(motion.skeleton.joints.map((joint) => joint.name)).toEqual(['Base Joint', 'Stück']);
    expect([...motion.root].map((v) => Number(v.toFixed(4)))).toEqual([0.1, 0.9, 0.05, 0.11, 0.91, 0.05]);
  });

  it.each([
    ['nonsense', '"HIERARCHY" was expected'],
    ['HIERARCHY\nROOT a\n{\nOFFSET 0 0 x', 'Line 4'],
    ['HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 1 Wrotation', '"Wrotation" is no channel'],
    [
      'HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\nCHANNELS 3 Zrotation Xrotation Yrotation\n}\nMOTION\nFrames: 3\nFrame Time: 0.03\n0 0 0',
      '9 values were expected',
    ],
    ['HIERARCHY\nROOT a\n{\nOFFSET 0 0 0\n}\nMOTION\nFrames: 0\nFrame Time: 0.03', 'count of frames'],
  ])('says what is wrong with %j', (text, message) => {
    expect(() => readBvh(text)).toThrow(BvhError);
    expect(() => readBvh(text)).toThrow(message);
  });
});
