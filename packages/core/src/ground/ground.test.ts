import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion } from '../motion/motion';
import { lowestSole, solePoints } from './floor';
import { settleOnFloor } from './settle';

const standing = (frames: number) => restMotion(humanoidSkeleton(averageProportions(1.7)), frames, 30);

describe('floor', () => {
  it('knows heel and toe of both feet, on the floor in the rest pose', () => {
    const motion = standing(1);
    expect(solePoints(motion).map((point) => point.name)).toEqual(['leftHeel', 'leftToe', 'rightHeel', 'rightToe']);
    expect(Math.abs(lowestSole(motion)[0])).toBeLessThan(1e-6);
  });

  it('takes out slow rising and leaves a jump', () => {
    const motion = standing(120);
    for (let f = 0; f < 120; f++) motion.root[f * 3 + 1] += 0.1 + 0.001 * f;
    const jump = (f: number): number => Math.max(0, 0.25 * (1 - ((f - 60) / 7) ** 2));
    for (let f = 0; f < 120; f++) motion.root[f * 3 + 1] += jump(f);
    const low = lowestSole(settleOnFloor(motion));
    for (const f of [5, 30, 100]) expect(Math.abs(low[f])).toBeLessThan(0.02);
    expect(low[60]).toBeGreaterThan(0.22);
  });
});
