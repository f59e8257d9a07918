import { quat } from 'gl-matrix';
import { exampleMotion } from '../../../test/example-motion';
import { alignSigns, copyMotion, writeRotation, type Motion } from '../../motion/motion';
import { turnBetween } from '../../signal/joint-columns';
import { easeMotion } from './ease';

const FRAMES = 120;
const JOINT = 5;

/** A motion at rest but for one joint, which turns about its own x axis by an angle for each frame. */
function turning(angle: (frame: number) => number): Motion {
  const motion = exampleMotion(FRAMES);
  motion.root.fill(1);
  for (let joint = 0; joint < motion.skeleton.joints.length; joint++)
    for (let frame = 0; frame < FRAMES; frame++)
      writeRotation(
        motion,
        joint,
        frame,
        quat.setAxisAngle(quat.create(), [1, 0, 0], joint === JOINT ? angle(frame) : 0),
      );
  alignSigns(motion);
  return motion;
}

/** Largest turn between neighbouring frames of some span, radians. */
function quickest(motion: Motion, from: number, until: number): number {
  let most = 0;
  for (let frame = from; frame < until; frame++) most = Math.max(most, turnBetween(motion, JOINT, frame, frame + 1));
  return most;
}

describe('easing what was fitted', () => {
  it('takes out trembling at rest', () => {
    const motion = turning((frame) => (frame % 2 ? 0.004 : -0.004));
    const before = quickest(motion, 20, 100);
    easeMotion(motion);
    expect(quickest(motion, 20, 100)).toBeLessThan(before / 10);
  });

  it('keeps the speed of a blow to within 5 %', () => {
    // A turn by 45 degrees in a fifth of a second.
    const motion = turning((frame) => Math.PI / 4 / (1 + Math.exp(-(frame - 60) / 1.3)));
    const before = quickest(motion, 20, 100);
    easeMotion(motion);
    expect(quickest(motion, 20, 100)).toBeGreaterThan(before * 0.95);
  });

  it('keeps a slow swing', () => {
    const motion = turning((frame) => 0.4 * Math.sin((frame / 30) * 2 * Math.PI));
    const before = copyMotion(motion).rotations;
    easeMotion(motion);
    const at = JOINT * FRAMES * 4;
    for (let i = at + 40; i < at + FRAMES * 4 - 40; i++) expect(motion.rotations[i]).toBeCloseTo(before[i], 2);
  });

  it('eases the path, keeps turns at length one and joints that never turn as they are', () => {
    const motion = turning((frame) => (frame % 2 ? 0.3 : -0.3));
    for (let frame = 0; frame < FRAMES; frame++) motion.root[frame * 3 + 1] += frame % 2 ? 0.0005 : -0.0005;
    const other = motion.rotations.slice(0, FRAMES * 4);
    easeMotion(motion);
    expect(motion.rotations.slice(0, FRAMES * 4)).toEqual(other);
    expect(Math.abs(motion.root[61] - motion.root[64])).toBeLessThan(0.0004);
    for (let frame = 0; frame < FRAMES; frame++) {
      const at = (JOINT * FRAMES + frame) * 4;
      expect(Math.hypot(...motion.rotations.subarray(at, at + 4))).toBeCloseTo(1, 5);
    }
  });

  it('holds up on takes of a frame or two', () => {
    for (const frames of [1, 2, 3]) {
      const motion = exampleMotion(frames);
      easeMotion(motion);
      expect(motion.rotations.every(Number.isFinite)).toBe(true);
      expect(motion.root.every(Number.isFinite)).toBe(true);
    }
  });
});
