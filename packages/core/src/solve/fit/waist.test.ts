import { quat } from 'gl-matrix';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, writeRotation } from '../../motion/motion';
import { jointIndex } from '../../motion/skeleton';
import { spineBend } from './waist';

const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), 3, 30);
const spine = jointIndex(motion.skeleton, 'spine');
const about = (axis: [number, number, number], angle: number): quat => quat.setAxisAngle([0, 0, 0, 1], axis, angle);
const bend = (part: number, slopes = new Float64Array(3)): number => spineBend(motion, spine, 1, part, slopes);

describe('the bend of the waist', () => {
  it('is the turn of the spine in the axes of the pelvis, whichever sign its quaternion has', () => {
    writeRotation(motion, 0, 1, about([0, 1, 0], 1.2));
    for (const sign of [1, -1]) {
      const turn = about([1, 0, 0], 0.2);
      writeRotation(motion, spine, 1, quat.scale(turn, turn, sign));
      expect(bend(0)).toBeCloseTo(0.2, 2);
      expect(bend(1)).toBeCloseTo(0, 6);
      expect(bend(2)).toBeCloseTo(0, 6);
    }
  });

  it('has slopes that agree with small turns of the spine about the axes of the world', () => {
    const pelvis = quat.multiply([0, 0, 0, 1], about([0, 1, 0], 0.7), about([1, 0, 0], -0.4));
    const bent = about([0.6, 0, 0.8], 0.1);
    writeRotation(motion, 0, 1, pelvis);
    const step = 1e-3;
    for (let part = 0; part < 3; part++)
      for (const [axis, direction] of (
        [
          [1, 0, 0],
          [0, 1, 0],
          [0, 0, 1],
        ] as [number, number, number][]
      ).entries()) {
        writeRotation(motion, spine, 1, bent);
        const slopes = new Float64Array(3);
        const before = bend(part, slopes);
        // The same turn in the pelvis' axes, before the spine's own.
        const inside = quat.invert([0, 0, 0, 1], pelvis);
        const small = quat.multiply([0, 0, 0, 1], inside, quat.multiply([0, 0, 0, 1], about(direction, step), pelvis));
        writeRotation(motion, spine, 1, quat.multiply([0, 0, 0, 1], small, bent));
        expect(Math.abs((bend(part) - before) / step - slopes[axis])).toBeLessThan(0.1);
      }
  });
});
