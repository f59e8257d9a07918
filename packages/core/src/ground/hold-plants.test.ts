import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { quat } from 'gl-matrix';
import { restMotion, worldPositions, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { solePoints, soleTrack } from './floor';
import { holdPlants } from './hold-plants';
import { Plant, plantsFrom } from './plants';

const skeleton = humanoidSkeleton(averageProportions(1.7));
const FRAMES = 90;
const plant = (fields: object): Plant => Plant.parse(fields);

/** Somebody with bent knees whose hips camera motion and whose feet go along, up to 3 cm off the floor. */
function swaying(): Motion {
  const motion = restMotion(skeleton, FRAMES, 30);
  const turn = (name: string, f: number, x: number): void =>
    writeRotation(motion, jointIndex(skeleton, name), f, quat.fromEuler(quat.create(), x, 0, 0));
  for (let f = 0; f < FRAMES; f++) {
    for (const side of ['left', 'right']) {
      turn(`${side}UpperLeg`, f, -15);
      turn(`${side}LowerLeg`, f, 30);
      turn(`${side}Foot`, f, -15);
    }
    motion.root[f * 3] += 0.03 * Math.sin(f / 9);
    motion.root[f * 3 + 1] += 0.015 * Math.sin(f / 7) - 0.02;
    motion.root[f * 3 + 2] += 0.02 * Math.cos(f / 11);
  }
  return motion;
}

const travel = (track: Float64Array, point: number, from: number, until: number): number => {
  let most = 0;
  for (let f = from + 1; f < until; f++) {
    const [a, b] = [((f - 1) * 4 + point) * 3, (f * 4 + point) * 3];
    most = Math.max(most, Math.hypot(track[b] - track[a], track[b + 1] - track[a + 1], track[b + 2] - track[a + 2]));
  }
  return most;
};

describe('plants', () => {
  it('are the runs of frames in which a sole rests', () => {
    const rest = new Float64Array(30);
    rest.fill(1, 3, 12);
    rest.fill(1, 20, 22);
    const none = new Float64Array(30);
    expect(plantsFrom({ leftHeel: rest, leftToe: none, rightHeel: none, rightToe: none })).toEqual([
      { part: 'leftHeel', from: 3, until: 12, ease: 5, place: null },
    ]);
    expect(plantsFrom(null)).toEqual([]);
  });

  it('leave the loose ends of a rest free, and hold the middle of the shortest one', () => {
    const rest = new Float64Array(30);
    rest.set([1 / 3, 2 / 3, 1, 1, 1, 2 / 3, 1 / 3], 3);
    rest.set([1 / 3, 2 / 3, 2 / 3, 1 / 3], 20);
    const none = new Float64Array(30);
    const found = plantsFrom({ leftHeel: none, leftToe: rest, rightHeel: none, rightToe: none });
    expect(found.map(({ from, until }) => [from, until])).toEqual([
      [5, 8],
      [21, 23],
    ]);
  });

  it('refuse nonsense', () => {
    expect(() => plant({ part: 'nose', from: 0, until: 3 })).toThrow();
    expect(() => plant({ part: 'leftToe', from: 0.5, until: 3 })).toThrow();
  });
});

describe('holding plants', () => {
  const motion = swaying();
  const names = solePoints(motion).map((point) => point.name);
  const whole = names.map((part) => plant({ part, from: 0, until: FRAMES }));

  it('keeps planted feet still to a tenth of a millimetre, on the floor, with bones as they were', () => {
    const before = soleTrack(motion);
    const held = holdPlants(motion, whole);
    const after = soleTrack(held);
    for (const p of [0, 1, 2, 3]) {
      expect(travel(before, p, 0, FRAMES)).toBeGreaterThan(0.002);
      expect(travel(after, p, 0, FRAMES)).toBeLessThan(1e-4);
      for (let f = 0; f < FRAMES; f++) expect(Math.abs(after[(f * 4 + p) * 3 + 1])).toBeLessThan(1e-3);
    }
    expect(held.skeleton).toBe(motion.skeleton);
  });

  it('leaves the input, and what is not planted, alone', () => {
    const copy = [motion.rotations.slice(), motion.root.slice()];
    const held = holdPlants(motion, [plant({ part: 'leftToe', from: 30, until: 50, ease: 5 })]);
    expect([motion.rotations, motion.root]).toEqual(copy);
    const [a, b] = [soleTrack(motion), soleTrack(held)];
    for (let f = 0; f < FRAMES; f++) {
      const far = f < 24 || f > 56;
      if (far) expect(Math.abs(b[(f * 4 + 1) * 3] - a[(f * 4 + 1) * 3])).toBeLessThan(1e-4);
      expect(Math.abs(b[(f * 4 + 3) * 3] - a[(f * 4 + 3) * 3])).toBeLessThan(1e-4);
    }
    expect(travel(b, 1, 30, 50)).toBeLessThan(1e-4);
    expect(holdPlants(motion, [])).toBe(motion);
  });

  it('eases in and out without a jump', () => {
    const held = holdPlants(motion, [
      plant({ part: 'rightToe', from: 30, until: 50, ease: 6, place: [-0.05, 0, 0.2] }),
    ]);
    const track = soleTrack(held);
    expect(track[(40 * 4 + 3) * 3]).toBeCloseTo(-0.05, 4);
    expect(track[(40 * 4 + 3) * 3 + 2]).toBeCloseTo(0.2, 4);
    expect(travel(track, 3, 20, 60)).toBeLessThan(0.05);
  });

  it('brings the hips down for a foot that is out of reach, and back', () => {
    const far = plant({ part: 'leftToe', from: 40, until: 50, ease: 8, place: [0.1, 0, 0.55] });
    const held = holdPlants(motion, [far]);
    expect(soleTrack(held)[(45 * 4 + 1) * 3 + 2]).toBeCloseTo(0.55, 2);
    expect(held.root[45 * 3 + 1]).toBeLessThan(motion.root[45 * 3 + 1] - 0.01);
    expect(held.root[80 * 3 + 1]).toBeCloseTo(motion.root[80 * 3 + 1], 5);
  });

  it('brings nothing below the floor that was above it: neither the other foot, nor the end that is not held', () => {
    const standing = restMotion(skeleton, FRAMES, 30);
    const lowest = (of: Motion, point: number): number =>
      Math.min(...Array.from({ length: FRAMES }, (_, f) => soleTrack(of)[(f * 4 + point) * 3 + 1]));
    // Straight legs: the hips must come down for a foot that is far away, and the other one stands on the floor.
    const far = holdPlants(standing, [plant({ part: 'leftToe', from: 40, until: 50, place: [0.1, 0, 0.6] })]);
    expect(far.root[45 * 3 + 1]).toBeLessThan(standing.root[45 * 3 + 1] - 0.02);
    for (const point of [2, 3]) expect(lowest(far, point)).toBeGreaterThan(-0.002);
    // A foot on its heel: the ball is brought to the floor, which the heel is on already.
    const raised = restMotion(skeleton, FRAMES, 30);
    for (let f = 0; f < FRAMES; f++)
      writeRotation(raised, jointIndex(skeleton, 'leftFoot'), f, quat.fromEuler(quat.create(), -20, 0, 0));
    const heel = lowest(raised, 0);
    const flat = holdPlants(raised, [plant({ part: 'leftToe', from: 20, until: 60, place: null })]);
    expect(lowest(raised, 1)).toBeGreaterThan(heel + 0.03);
    expect(lowest(flat, 1)).toBeLessThan(lowest(raised, 1) - 0.02);
    expect(lowest(flat, 0)).toBeGreaterThan(Math.min(0, heel) - 0.002);
  });

  it('holds a hand where it is told to', () => {
    const hand = jointIndex(skeleton, 'leftHand') * 3;
    const stride = skeleton.joints.length * 3;
    const place = worldPositions(motion).slice(20 * stride + hand, 20 * stride + hand + 3);
    place[0] -= 0.1;
    place[1] -= 0.2;
    const held = holdPlants(motion, [plant({ part: 'leftHand', from: 10, until: 60, place: [...place] })]);
    const after = worldPositions(held);
    for (const f of [10, 30, 59])
      for (let k = 0; k < 3; k++) expect(after[f * stride + hand + k]).toBeCloseTo(place[k], 4);
  });
});
