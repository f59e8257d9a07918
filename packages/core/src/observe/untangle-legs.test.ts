import { quat } from 'gl-matrix';
import { observeMotion } from '../../test/observe-motion';
import { lookAt } from '../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { MARK, MARK_COUNT, type BodyObservations } from './body';
import { tangledLegs, withLegsApart } from './untangle-legs';

const HEIGHT = 1.7;

/** Somebody who walks across the view, a step in half a second. */
function walk(frames = 90): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  for (let f = 0; f < frames; f++) {
    motion.root[f * 3] = -1 + f * 0.025;
    writeRotation(motion, 0, f, quat.fromEuler(quat.create(), 0, 90, 0));
    for (const [side, phase] of [
      ['left', 0],
      ['right', Math.PI],
    ] as const) {
      const swing = Math.sin((f / 30) * Math.PI * 2 + phase);
      writeRotation(
        motion,
        jointIndex(motion.skeleton, `${side}UpperLeg`),
        f,
        quat.fromEuler(quat.create(), -25 * swing, 0, 0),
      );
      writeRotation(
        motion,
        jointIndex(motion.skeleton, `${side}LowerLeg`),
        f,
        quat.fromEuler(quat.create(), 20 + 15 * swing, 0, 0),
      );
    }
  }
  return motion;
}

const seen = observeMotion(walk(), lookAt([0.3, 1.4, 5], [0, 0.9, 0], 52, 960, 540), HEIGHT);

/** The same with the legs taken for each other from … until − 1, by their marks and points. */
function tangle(from: number, until: number): BodyObservations {
  const [marks, world] = [seen.marks.slice(), seen.world.slice()];
  for (let f = from; f < until; f++)
    for (const part of ['Knee', 'Ankle', 'Heel', 'FootIndex'] as const) {
      const at = (side: 'left' | 'right'): number => (f * MARK_COUNT + MARK[`${side}${part}`]) * 3;
      for (const [column, source] of [
        [marks, seen.marks],
        [world, seen.world],
      ]) {
        column.set(source.subarray(at('left'), at('left') + 3), at('right'));
        column.set(source.subarray(at('right'), at('right') + 3), at('left'));
      }
    }
  return { ...seen, marks, world };
}

const framesOf = (flags: Uint8Array): number[] => [...flags.keys()].filter((frame) => flags[frame]);

describe('legs that were taken for each other', () => {
  it('are left as they are in a walk in which they cross again and again', () => {
    expect(framesOf(tangledLegs(seen))).toEqual([]);
    expect(withLegsApart(seen)).toBe(seen);
  });

  it.each([
    ['a frame', 36, 37],
    ['some frames', 36, 40],
    ['half a second, from crossing to crossing', 30, 45],
  ])('for %s are found and put right', (_, from, until) => {
    const tangled = tangle(from, until);
    const found = framesOf(tangledLegs(tangled));
    // Where the legs lie over each other the change may be told a frame early or late.
    expect(Math.abs(found[0] - from)).toBeLessThanOrEqual(1);
    expect(Math.abs((found.at(-1) ?? 0) + 1 - until)).toBeLessThanOrEqual(1);
    const apart = withLegsApart(tangled);
    const ankle = (35 + 1) * MARK_COUNT * 3 + MARK.leftAnkle * 3;
    expect(apart.marks[ankle]).toBeCloseTo(seen.marks[ankle], 4);
    expect(apart.world[ankle + 2]).toBeCloseTo(seen.world[ankle + 2], 5);
    const hip = 36 * MARK_COUNT * 3 + MARK.leftHip * 3;
    expect(apart.marks[hip]).toBe(seen.marks[hip]);
  });

  it('are looked for on each side of a gap alone', () => {
    const tangled = tangle(36, 40);
    const presence = seen.presence.slice();
    presence.fill(0, 50, 60);
    expect(framesOf(tangledLegs({ ...tangled, presence }))).toEqual([36, 37, 38, 39]);
    expect(framesOf(tangledLegs({ ...tangled, presence: presence.fill(0) }))).toEqual([]);
  });
});
