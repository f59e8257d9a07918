import { exampleMotion } from '../../test/example-motion';
import { copyMotion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { measureBetween } from '../measure/measure-between';
import { GOES_ON, knownFrames, likeliestShares } from './likeliest-course';
import { regenerate } from './regenerate';

const motion = exampleMotion(120);

describe('the likeliest course', () => {
  it('gives shares that sum up to one, and the ends where it meets them', () => {
    const known = knownFrames(29, 40, 120, 30);
    expect([known[0], known.at(-1)]).toEqual([22, 47]);
    for (const [frame, shares] of likeliestShares(known, 29, 41, 30, GOES_ON.place)) {
      expect(shares.reduce((sum, share) => sum + share, 0)).toBeCloseTo(1, 9);
      if (frame === 29) expect(shares[known.indexOf(29)]).toBeGreaterThan(0.9);
    }
  });

  it('looks at as long a time whatever the rate', () => {
    expect(knownFrames(300, 340, 1000, 120)[0]).toBe(300 - 7 * 4);
    expect(knownFrames(2, 5, 8, 30)).toEqual([0, 1, 2, 5, 6, 7]);
  });
});

describe('a range made anew', () => {
  it('is nearer to what was there than straight lines and splines', () => {
    const [short, middle] = measureBetween(motion);
    expect(short.ranges).toBeGreaterThan(2);
    expect(short.madeAnewMm).toBeLessThan(short.splineMm);
    expect(short.madeAnewMm).toBeLessThan(short.straightMm / 2);
    expect(middle.madeAnewMm).toBeLessThan(middle.splineMm);
  });

  it('does not look at what it throws away, and leaves the rest and other parts', () => {
    const broken = copyMotion(motion);
    for (let frame = 40; frame < 55; frame++) broken.root[frame * 3] = 99;
    const arm = jointIndex(motion.skeleton, 'leftUpperArm');
    broken.rotations.fill(0.5, (arm * 120 + 40) * 4, (arm * 120 + 55) * 4);
    const [made, clean] = [regenerate(broken, 40, 55), regenerate(motion, 40, 55)];
    expect([...made.root]).toEqual([...clean.root]);
    expect([...made.rotations]).toEqual([...clean.rotations]);
    const legs = regenerate(motion, 40, 55, (part) => part === 'leftLeg');
    expect([...legs.root]).toEqual([...motion.root]);
    expect(legs.rotations.subarray(arm * 480, arm * 480 + 480)).toEqual(
      motion.rotations.subarray(arm * 480, arm * 480 + 480),
    );
    const leg = jointIndex(motion.skeleton, 'leftUpperLeg');
    const column = (m: typeof motion): Float32Array => m.rotations.subarray(leg * 480, leg * 480 + 480);
    expect([...column(legs)]).not.toEqual([...column(motion)]);
    expect([...column(legs).subarray(0, 160)]).toEqual([...column(motion).subarray(0, 160)]);
  });

  it('comes to rest near the other side at an end of the take', () => {
    const made = regenerate(motion, 0, 20);
    const at = (m: typeof motion, frame: number): number[] => [...m.root.subarray(frame * 3, frame * 3 + 3)];
    const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((value, k) => value - b[k]));
    expect(apart(at(made, 0), at(motion, 20))).toBeLessThan(0.3);
    expect(apart(at(made, 0), at(made, 1))).toBeLessThan(apart(at(made, 18), at(made, 19)));
    expect(made.frames).toBe(120);
    expect([...regenerate(motion, 0, 120).root]).toEqual([...motion.root]);
  });
});
