import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, type Motion } from '../../motion/motion';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { emptyHandObservations } from '../../observe/hands';
import { keepingSwapped, shiftSwapped, withSwappedSides, type SwappedSides } from './swapped-sides';

const FRAMES = 12;
const motion: Motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
const seen = observeMotion(motion, lookAt([0, 1.4, 4], [0.3, 0.9, 0], 52, 960, 540), 1.7);
const span = (what: SwappedSides['what'], from: number, until: number): SwappedSides => ({ what, from, until });
const row = (column: Float32Array, frame: number, mark: MarkName): number[] => {
  const at = (frame * MARK_COUNT + MARK[mark]) * 3;
  return [...column.subarray(at, at + 3)];
};

describe('left and right swapped by a person', () => {
  it('trade places in the frames that were told, and in the parts that were told', () => {
    const told = withSwappedSides(seen, [span('legs', 3, 6)]);
    expect(row(told.marks, 4, 'leftKnee')).toEqual(row(seen.marks, 4, 'rightKnee'));
    expect(row(told.world, 4, 'rightHeel')).toEqual(row(seen.world, 4, 'leftHeel'));
    expect(row(told.marks, 4, 'leftWrist')).toEqual(row(seen.marks, 4, 'leftWrist'));
    expect(row(told.marks, 6, 'leftKnee')).toEqual(row(seen.marks, 6, 'leftKnee'));
    expect(withSwappedSides(seen, [])).toBe(seen);
    expect(withSwappedSides(seen, [span('body', 40, 60)])).toBe(seen);
  });

  it('turn a body round, and are taken back by a second swap', () => {
    const told = withSwappedSides(seen, [span('body', 0, FRAMES)]);
    const [x, y, z] = row(seen.world, 5, 'rightShoulder');
    expect(row(told.world, 5, 'leftShoulder')).toEqual([x, y, -z]);
    const back = withSwappedSides(told, [span('body', 0, FRAMES)]);
    expect(Array.from(back.marks)).toEqual(Array.from(seen.marks));
  });

  it('take hands along with arms', () => {
    const [left, right] = [emptyHandObservations(FRAMES), emptyHandObservations(FRAMES)];
    left.presence.fill(0.9);
    right.presence.fill(0.4);
    const told = withSwappedSides({ ...seen, hands: { left, right } }, [span('arms', 2, 5)]);
    expect([1, 2, 4, 5].map((frame) => told.hands?.left.presence[frame])).toEqual(
      [0.9, 0.4, 0.4, 0.9].map((value) => expect.closeTo(value, 5)),
    );
    expect(withSwappedSides({ ...seen, hands: { left, right } }, [span('legs', 2, 5)]).hands?.left).toBe(left);
  });

  it('stay as they were told whatever is told apart afterwards', () => {
    const told = withSwappedSides(seen, [span('legs', 3, 6)]);
    const apart: BodyObservations = seen;
    const kept = keepingSwapped(apart, told, [span('legs', 3, 6)]);
    expect(row(kept.marks, 4, 'leftKnee')).toEqual(row(told.marks, 4, 'leftKnee'));
    expect(row(kept.marks, 7, 'leftKnee')).toEqual(row(apart.marks, 7, 'leftKnee'));
    expect(keepingSwapped(apart, told, shiftSwapped([span('legs', 3, 6)], -20))).toBe(apart);
  });
});
