import { describe, expect, it } from '@jest/globals';
import { lowestSole } from '../ground/floor';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion, type Motion } from '../motion/motion';
import { NO_CONTEXT } from './pass';
import { rootDrift } from './root-drift';

const FRAMES = 150;
const RATE = 30;

/** Somebody who camera motions on the spot, whom a camera that is carried off takes along, up and to the side. */
function carriedOff(): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, RATE);
  for (let f = 0; f < FRAMES; f++) {
    motion.root[f * 3] += 0.05 * Math.sin((2 * Math.PI * f) / RATE) + 0.004 * f;
    motion.root[f * 3 + 1] += 0.001 * f;
  }
  return motion;
}

const apply = (motion: Motion, options: object): Motion =>
  rootDrift.apply(motion, rootDrift.options.parse(options), NO_CONTEXT);
const x = (motion: Motion, frame: number): number => motion.root[frame * 3];

describe('taking out drift', () => {
  it('brings a path back to where it began, and keeps what is quicker', () => {
    const straight = apply(carriedOff(), { path: 'straighten', rising: false });
    expect(Math.abs(x(straight, FRAMES - 1) - x(straight, 0))).toBeLessThan(1e-5);
    // The camera motion of 5 cm to either side is still there, half a second from crest to trough.
    expect(x(straight, 67) - x(straight, 82)).toBeGreaterThan(0.09);
  });

  it('takes out all slow travel on the spot', () => {
    const wandering = carriedOff();
    for (let f = 0; f < FRAMES; f++) wandering.root[f * 3 + 2] += 0.8 * Math.sin((Math.PI * f) / FRAMES);
    const spot = apply(wandering, { path: 'spot', seconds: 1, rising: false });
    const path = Array.from({ length: FRAMES - 60 }, (_, i) => spot.root[(i + 30) * 3 + 2]);
    expect(Math.max(...path) - Math.min(...path)).toBeLessThan(0.12);
  });

  it('puts a body that rises as a whole back on the floor, and leaves a jump its height', () => {
    const jumping = carriedOff();
    for (let f = 70; f < 84; f++) jumping.root[f * 3 + 1] += 0.3 * Math.sin((Math.PI * (f - 70)) / 14);
    const level = apply(jumping, { path: 'keep', rising: true });
    const low = lowestSole(level);
    for (const f of [20, 50, 110, 130]) expect(Math.abs(low[f])).toBeLessThan(0.02);
    expect(low[77]).toBeGreaterThan(0.25);
  });

  it('keeps what it is not asked to change', () => {
    const motion = carriedOff();
    const kept = apply(motion, { path: 'keep', rising: false });
    expect(kept.root).toEqual(motion.root);
    const lifted = apply(motion, { path: 'keep', rising: true });
    expect(x(lifted, 90)).toBe(x(motion, 90));
    expect(lifted.rotations).toEqual(motion.rotations);
  });
});
