import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion } from '../../motion/motion';
import { MARK, MARK_COUNT } from '../../observe/body';
import { sampleMotion } from '../../signal/sample-motion';
import { agilities, agilityOf } from './agility';
import { pictureRun } from '../floor/sole-picture';

const HEIGHT = 1.7;
const camera = lookAt([0.3, 1.4, 5], [0, 0.9, 0], 52, 960, 540);

describe('how a mark runs over the picture', () => {
  /** Somebody who stands for a second, walks off to the side, and whose left heel shakes for the first half second. */
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 60, 30);
  for (let f = 30; f < 60; f++) motion.root[f * 3] += (f - 30) * 0.03;
  const observations = observeMotion(motion, camera, HEIGHT);
  for (let f = 0; f < 15; f++) observations.marks[(f * MARK_COUNT + MARK.leftHeel) * 3] += f % 2 ? 2 : -2;

  it('is nothing where it rests, and its true speed where it goes', () => {
    const { speed, uneven } = pictureRun(observations, 'rightHeel');
    expect(speed[15]).toBeLessThan(0.01);
    expect(uneven[15]).toBeLessThan(0.01);
    // 0.9 m/s, in lengths of a trunk that is taken to be half a metre long.
    expect(speed[45]).toBeGreaterThan(0.7);
    expect(speed[45]).toBeLessThan(1.1);
  });

  it('tells shake as unevenness more than as speed', () => {
    const { speed, uneven } = pictureRun(observations, 'leftHeel');
    expect(uneven[7]).toBeGreaterThan(0.5);
    expect(speed[7]).toBeLessThan(0.2 * uneven[7]);
    expect(uneven[25]).toBeLessThan(0.01);
  });

  it('is the same at another frame rate', () => {
    const twice = sampleMotion(
      motion,
      Float64Array.from({ length: 119 }, (_, f) => f / 2),
      60,
    );
    const fast = pictureRun(observeMotion(twice, camera, HEIGHT), 'rightHeel');
    expect(fast.speed[90]).toBeCloseTo(pictureRun(observations, 'rightHeel').speed[45], 2);
  });

  it('is unknown where the mark is not seen, and tells on from the frames around', () => {
    const hidden = { ...observations, marks: observations.marks.slice() };
    for (const f of [44, 45]) hidden.marks[(f * MARK_COUNT + MARK.rightHeel) * 3 + 2] = 0.1;
    const { speed } = pictureRun(hidden, 'rightHeel');
    expect(speed[45]).toBeNaN();
    expect(speed[46]).toBeCloseTo(pictureRun(observations, 'rightHeel').speed[46], 2);
  });
});

describe('agility', () => {
  const FRAMES = 90;
  const observations = observeMotion(
    restMotion(humanoidSkeleton(averageProportions(HEIGHT)), FRAMES, 30),
    camera,
    HEIGHT,
  );
  const trunk = new Float64Array(FRAMES).fill(100);
  /** The left wrist moved over the picture and in depth. */
  const moved = (x: (f: number) => number, z: (f: number) => number = () => 0): typeof observations => {
    const out = { ...observations, marks: observations.marks.slice(), world: observations.world.slice() };
    for (let f = 0; f < FRAMES; f++) {
      out.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += x(f);
      out.world[(f * MARK_COUNT + MARK.leftWrist) * 3 + 2] += z(f);
    }
    return out;
  };
  const across = (seen: typeof observations, pixels = trunk): Float64Array =>
    agilityOf(seen, 'leftWrist', pixels, 1).across;

  it('is nothing for what is still or goes evenly, and next to nothing for what shakes', () => {
    expect(Math.max(...across(observations))).toBeLessThan(0.01);
    expect(Math.max(...across(moved((f) => f * 20)).subarray(10, 80))).toBeLessThan(0.05);
    // Shake by a pixel to and fro, five millimetres: as accelerations 9 m/s².
    expect(Math.max(...across(moved((f) => (f % 2 ? 0.5 : -0.5))))).toBeLessThan(0.3);
  });

  it('is the acceleration of what swings, in metres where the body is', () => {
    // 20 px are 0.1 m; once a second.
    const swing = moved((f) => 20 * Math.sin((2 * Math.PI * f) / 30));
    const expected = (0.1 * (2 * Math.PI) ** 2) / Math.SQRT2;
    const found = across(swing).subarray(15, 75);
    const mean = found.reduce((sum, value) => sum + value, 0) / found.length;
    expect(mean / expected).toBeGreaterThan(0.85);
    expect(mean / expected).toBeLessThan(1.05);
    const larger = across(swing, new Float64Array(FRAMES).fill(200)).subarray(15, 75);
    expect(larger[30] / found[30]).toBeCloseTo(0.5, 2);
  });

  it('is the same of a swing that shakes, filmed at any rate', () => {
    const found = [30, 60, 120].map((rate) => {
      const rest = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 2 * rate, rate);
      const seen = observeMotion(rest, camera, HEIGHT);
      for (let f = 0; f < 2 * rate; f++) {
        const shake = ((Math.sin(f * 12.9898) * 43758.5453) % 1) * 0.8;
        seen.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += 8 * Math.sin((2 * Math.PI * f) / rate) + shake;
      }
      const { across: told } = agilityOf(seen, 'leftWrist', new Float64Array(2 * rate).fill(100), 1);
      const inside = told.subarray(rate / 2, (3 * rate) / 2);
      return inside.reduce((sum, value) => sum + value, 0) / inside.length;
    });
    for (const value of found) expect(value / found[0]).toBeGreaterThan(0.8);
    for (const value of found) expect(value / found[0]).toBeLessThan(1.25);
  });

  it('is not given to a mark that jumps, once and back or for good', () => {
    const way = 40;
    const walks = across(moved((f) => way / (1 + Math.exp((45 - f) / 2))));
    const spike = across(moved((f) => (f === 45 ? way : 0)));
    const step = across(moved((f) => (f < 45 ? 0 : way)));
    expect(Math.max(...walks)).toBeGreaterThan(2);
    // Frame by frame a jump of 40 px is 180 m/s².
    expect(Math.max(...spike)).toBeLessThan(15);
    expect(Math.max(...step)).toBeLessThan(15);
  });

  it('comes from the depth of arms, not of legs, along the view', () => {
    const swing = (f: number): number => 0.2 * Math.sin((2 * Math.PI * f) / 30);
    const seen = moved(() => 0, swing);
    for (let f = 0; f < FRAMES; f++) seen.world[(f * MARK_COUNT + MARK.leftKnee) * 3 + 2] += swing(f);
    const arm = agilityOf(seen, 'leftWrist', trunk, 1);
    expect(arm.along[45]).toBeGreaterThan(3);
    expect(agilityOf(seen, 'leftWrist', trunk, 2).along[45] / arm.along[45]).toBeCloseTo(2, 5);
    expect(Math.max(...arm.across)).toBeLessThan(0.01);
    expect(Math.max(...agilityOf(seen, 'leftKnee', trunk, 1).along)).toBe(0);
  });

  it('goes on over gaps', () => {
    const holed = { ...observations, marks: observations.marks.slice(), world: observations.world.slice() };
    for (const values of [holed.marks, holed.world]) values.fill(NaN, 20 * MARK_COUNT * 3, 25 * MARK_COUNT * 3);
    const { across, along } = agilityOf(holed, 'rightElbow', trunk, 1);
    // What stands still before and after a gap has not moved in it.
    for (const values of [across, along]) expect(Math.max(...values)).toBeLessThan(0.01);
  });

  it('is a number everywhere, whoever is seen in however few frames', () => {
    for (const seen of [0, 1, 5]) {
      const lost = { ...observations, marks: observations.marks.slice(), world: observations.world.slice() };
      for (const values of [lost.marks, lost.world]) values.fill(NaN, seen * MARK_COUNT * 3);
      for (const { across, along } of agilities(lost, 1).values())
        for (const values of [across, along]) expect(Math.max(...values)).toBeLessThan(0.01);
    }
  });

  it('is nothing where there are too few frames to tell', () => {
    const short = observeMotion(restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 2, 30), camera, HEIGHT);
    expect([...agilityOf(short, 'leftWrist', new Float64Array(2).fill(100), 1).across]).toEqual([0, 0]);
  });
});
