import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restPositions } from '../motion/skeleton';
import { limbLengthError } from './measure-bones';
import type { Truth } from './truth';

describe('lengths of limbs', () => {
  const skeleton = humanoidSkeleton(averageProportions(1.7));
  const truth = {
    joints: skeleton.joints.map((joint) => joint.name),
    positions: [Array.from(restPositions(skeleton))],
  } as unknown as Truth;

  it('are right where they are the true ones', () => expect(limbLengthError(skeleton, truth)).toBeCloseTo(0, 9));

  it('tell by how much a whole body is too long, and how little a single bone counts', () => {
    expect(limbLengthError(humanoidSkeleton(averageProportions(1.87)), truth)).toBeCloseTo(0.1, 6);
    const p = averageProportions(1.7);
    expect(limbLengthError(humanoidSkeleton({ ...p, thigh: p.thigh * 0.92 }), truth)).toBeCloseTo(0.02, 6);
  });
});
