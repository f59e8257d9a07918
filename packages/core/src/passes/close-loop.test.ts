import { exampleMotion } from '../../test/example-motion';
import { worldPositions, type Motion } from '../motion/motion';
import { findCycle } from '../signal/find-cycle';
import { sliceMotion } from '../signal/slice-motion';
import { closeLoop } from './close-loop';
import { NO_CONTEXT } from './pass';

const RATE = 30;
/** A pose that comes again every 40 frames, while the root travels 2 cm a frame and all of it drifts a little. */
function walk(frames: number): Motion {
  const example = exampleMotion(40);
  const joints = example.skeleton.joints.length;
  const rotations = new Float32Array(joints * frames * 4);
  // Back and forth, so that it is smooth where it begins again.
  const pose = (f: number): number => Math.abs(((f + 20) % 40) - 20);
  for (let j = 0; j < joints; j++)
    for (let f = 0; f < frames; f++)
      rotations.set(
        example.rotations.subarray((j * 40 + pose(f)) * 4, (j * 40 + pose(f)) * 4 + 4),
        (j * frames + f) * 4,
      );
  const root = Float32Array.from({ length: frames * 3 }, (_, i) =>
    i % 3 === 2 ? 0.02 * Math.floor(i / 3) : i % 3 === 1 ? 0.9 + 0.0004 * Math.floor(i / 3) : 0,
  );
  return { ...example, frames, rate: RATE, rotations, root };
}
/** The farthest that any joint goes from one frame to the next over the seam, seen from the root. */
function seam(motion: Motion): number {
  const places = worldPositions(motion);
  const joints = motion.skeleton.joints.length;
  let most = 0;
  for (let i = 0; i < joints * 3; i++) {
    const last = (motion.frames - 1) * joints * 3;
    const own = (at: number): number => places[at + i] - (i % 3 === 1 ? 0 : places[at + (i % 3)]);
    most = Math.max(most, Math.abs(own(0) - own(last)));
  }
  return most;
}
const run = (motion: Motion, options: object): Motion =>
  closeLoop.apply(motion, closeLoop.options.parse(options), NO_CONTEXT);

describe('a loop', () => {
  it('goes on over its end without a jump, and is as long as it says', () => {
    const part = sliceMotion(walk(200), 13, 78);
    const out = run(part, { blend: 0.4 });
    expect(out.frames).toBe(closeLoop.length?.(part, closeLoop.options.parse({ blend: 0.4 }))?.frames);
    expect(seam(part)).toBeGreaterThan(0.1);
    const step = Math.max(...Array.from({ length: 10 }, (_, f) => seam(sliceMotion(part, f + 20, f + 22))));
    expect(seam(out)).toBeLessThan(1.5 * step + 0.005);
    // Who travels goes on: from the last frame to the first of the next round as far as from one frame to the next.
    expect(out.root[(out.frames - 1) * 3 + 2] - out.root[2]).toBeCloseTo(0.02 * (out.frames - 1), 2);
    const still = run(part, { blend: 0.4, travels: false });
    expect(Math.abs(still.root[(still.frames - 1) * 3 + 2] - still.root[2])).toBeLessThan(0.03);
    expect(run(sliceMotion(part, 0, 3), { blend: 3 }).frames).toBe(3);
  });

  it('is found where a motion comes again', () => {
    const found = findCycle(walk(200));
    expect(found && (found.until - found.from) % 40).toBe(0);
    expect(found?.apart).toBeLessThan(0.03);
    expect(findCycle(walk(200), 3)?.until).toBeGreaterThan(89);
    expect(findCycle(sliceMotion(walk(40), 0, 10))).toBeNull();
  });
});
