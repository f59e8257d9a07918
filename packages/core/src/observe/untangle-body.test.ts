import { quat } from 'gl-matrix';
import { observeMotion } from '../../test/observe-motion';
import { lookAt } from '../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, writeRotation } from '../motion/motion';
import { MARK, MARK_COUNT, MARK_NAMES, type BodyObservations } from './body';
import { turnedRound, withBodyFacing } from './untangle-body';

const HEIGHT = 1.7;
const FRAMES = 60;

/** Somebody who turns by so many degrees from the first to the last frame. */
function turning(degrees: number, from = 20): BodyObservations {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), FRAMES, 30);
  for (let f = 0; f < FRAMES; f++)
    writeRotation(motion, 0, f, quat.fromEuler(quat.create(), 0, from + (degrees * f) / FRAMES, 0));
  return observeMotion(motion, lookAt([0, 1.3, 4.5], [0, 0.9, 0], 50, 960, 540), HEIGHT);
}

/** The same as the network would tell it that took the front for the back in some frames. */
function mistaken(seen: BodyObservations, from: number, until: number): BodyObservations {
  const [marks, world] = [seen.marks.slice(), seen.world.slice()];
  for (let f = from; f < until; f++)
    MARK_NAMES.forEach((name, mark) => {
      const other = name.replace(/^left|^right/, (side) => (side === 'left' ? 'right' : 'left'));
      const [to, source] = [mark, MARK[other as 'nose']].map((m) => (f * MARK_COUNT + m) * 3);
      marks.set(seen.marks.subarray(source, source + 3), to);
      world.set(seen.world.subarray(source, source + 3), to);
      world[to + 2] *= -1;
    });
  return { ...seen, marks, world };
}

const framesOf = (flags: Uint8Array): number[] => [...flags.keys()].filter((frame) => flags[frame]);

describe('bodies that were taken to face the other way', () => {
  it.each([0, 90, 180, 400])('are left as they are where somebody turns by %s°', (degrees) => {
    const seen = turning(degrees);
    expect(framesOf(turnedRound(seen))).toEqual([]);
    expect(withBodyFacing(seen)).toBe(seen);
  });

  it.each([
    ['a frame', 30, 31],
    ['half a second', 20, 35],
    ['the end', 48, 60],
    ['the beginning', 0, 9],
  ])('for %s are found, and all marks and points brought back', (_, from, until) => {
    const seen = turning(30);
    const found = withBodyFacing(mistaken(seen, from, until));
    expect(framesOf(turnedRound(mistaken(seen, from, until)))).toEqual(
      Array.from({ length: until - from }, (__, i) => from + i),
    );
    expect(found.marks).toEqual(seen.marks);
    expect(found.world).toEqual(seen.world);
  });
});
