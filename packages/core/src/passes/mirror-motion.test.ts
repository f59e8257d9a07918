import { exampleMotion } from '../../test/example-motion';
import { worldPositions, type Motion } from '../motion/motion';
import { mirrorName } from '../motion/humanoid';
import { jointIndex } from '../motion/skeleton';
import { mirrorMotion } from './mirror-motion';
import { NO_CONTEXT } from './pass';

const FRAMES = 40;
const curve = (name: string, value: number) => ({ name, values: new Float32Array(FRAMES).fill(value) });
const motion: Motion = {
  ...exampleMotion(FRAMES),
  curves: [
    curve('face.mouthSmileLeft', 0.7),
    curve('face.mouthSmileRight', 0.1),
    curve('face.mouthLeft', 0.3),
    curve('face.mouthRight', 0),
    curve('face.jawOpen', 0.5),
    curve('gaze.across', 0.2),
    curve('gaze.up', 0.1),
  ],
};
const mirrored = mirrorMotion.apply(motion, {}, NO_CONTEXT);

describe('mirroring a motion', () => {
  it('puts each joint where the other side was, as in a mirror', () => {
    const [before, after] = [motion, mirrored].map((of) => worldPositions(of));
    const joints = motion.skeleton.joints.length;
    motion.skeleton.joints.forEach(({ name }, joint) => {
      const other = jointIndex(motion.skeleton, mirrorName(name));
      for (const frame of [0, 13, FRAMES - 1]) {
        const [a, b] = [(frame * joints + joint) * 3, (frame * joints + other) * 3];
        expect(after[a]).toBeCloseTo(-before[b], 5);
        for (const k of [1, 2]) expect(after[a + k]).toBeCloseTo(before[b + k], 5);
      }
    });
  });

  it('mirrors the face and where the eyes look', () => {
    const values = Object.fromEntries(mirrored.curves.map(({ name, values: row }) => [name, row[7]]));
    expect(values['face.mouthSmileLeft']).toBeCloseTo(0.1, 6);
    expect(values['face.mouthSmileRight']).toBeCloseTo(0.7, 6);
    expect(values['face.mouthRight']).toBeCloseTo(0.3, 6);
    expect(values['face.jawOpen']).toBeCloseTo(0.5, 6);
    expect(values['gaze.across']).toBeCloseTo(-0.2, 6);
    expect(values['gaze.up']).toBeCloseTo(0.1, 6);
  });

  it('done twice is what it was', () => {
    const twice = mirrorMotion.apply(mirrored, {}, NO_CONTEXT);
    const [before, after] = [motion, twice].map((of) => worldPositions(of));
    for (let i = 0; i < before.length; i += 7) expect(after[i]).toBeCloseTo(before[i], 5);
    expect(twice.curves).toEqual(motion.curves);
    expect(twice.frames).toBe(FRAMES);
  });
});
