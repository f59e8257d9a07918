import { vec3 } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, type Motion } from '../../motion/motion';
import { MARK, MARK_COUNT } from '../../observe/body';
import { solePoints, soleTrack } from '../../ground/floor';
import { turnAbout, withoutLean } from '../network-lean';
import { agilityOf } from './agility';
import { floorSight } from './floor-sight';

const HEIGHT = 1.7;
const camera = lookAt([0.3, 1.4, 5], [0, 0.9, 0], 52, 960, 540);

/** Somebody who stands still for a second and then is carried away from the camera, feet on the floor. */
function carried(frames = 60): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  for (let f = 30; f < frames; f++) motion.root[f * 3 + 2] -= (f - 30) * 0.04;
  return motion;
}

describe('the floor by sight', () => {
  const motion = carried();
  const observations = observeMotion(motion, camera, HEIGHT);
  const points = solePoints(motion);

  it('is where the soles truly stand, even when the motion has them elsewhere in depth', () => {
    const wrong: Motion = { ...motion, root: motion.root.map((value, i) => value - (i % 3 === 2 ? 0.1 : 0)) };
    const truth = soleTrack(motion, points);
    for (const [guess, limit] of [
      [motion, 0.005],
      [wrong, 0.03],
    ] as const) {
      const sight = floorSight(guess, camera, observations, HEIGHT);
      for (const f of [0, 20, 45, 59])
        points.forEach((_, s) => {
          const at = (f * points.length + s) * 3;
          expect(Math.abs(sight[at] - truth[at])).toBeLessThan(limit);
          expect(Math.abs(sight[at + 1] - truth[at + 2])).toBeLessThan(limit);
        });
    }
  });

  it('tells how far a pixel moves it: more, the farther away', () => {
    const sight = floorSight(motion, camera, observations, HEIGHT);
    expect(sight[2]).toBeGreaterThan(0.01);
    expect(sight[59 * points.length * 3 + 2]).toBeGreaterThan(sight[2] * 1.2);
  });

  it('is unknown where a foot is not seen', () => {
    const hidden = { ...observations, marks: observations.marks.slice() };
    hidden.marks[(10 * MARK_COUNT + MARK.leftHeel) * 3 + 2] = 0.1;
    const sight = floorSight(motion, camera, hidden, HEIGHT);
    expect(sight[10 * points.length * 3]).toBeNaN();
    expect(sight[11 * points.length * 3]).not.toBeNaN();
  });
});

describe('agility', () => {
  const observations = observeMotion(restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 60, 30), camera, HEIGHT);
  const trunk = new Float64Array(60).fill(100);

  it('is least for what is still, whatever shakes by a pixel', () => {
    const shaking = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < 60; f++) shaking.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += f % 2 ? 0.5 : -0.5;
    expect(Math.max(...agilityOf(observations, 'leftWrist', trunk))).toBeCloseTo(0.5, 6);
    expect(Math.max(...agilityOf(shaking, 'leftWrist', trunk))).toBeLessThan(0.6);
  });

  it('grows with the speed of the picture, in trunks a second', () => {
    const moving = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < 60; f++) moving.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += f * 20;
    // 600 px a second are six trunks, three metres: eleven times as free as at rest.
    expect(agilityOf(moving, 'leftWrist', trunk)[30]).toBeCloseTo(5.5, 1);
    expect(agilityOf(moving, 'leftWrist', new Float64Array(60).fill(200))[30]).toBeCloseTo(3, 1);
  });

  it('is not given to a mark that jumps once and stays', () => {
    const jumping = { ...observations, marks: observations.marks.slice() };
    for (let f = 30; f < 60; f++) jumping.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += 40;
    const steady = { ...observations, marks: observations.marks.slice() };
    for (let f = 25; f < 60; f++) steady.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += Math.min(10, f - 25) * 4;
    const most = (seen: typeof jumping): number => Math.max(...agilityOf(seen, 'leftWrist', trunk));
    // The same way in a third of a second is slower, and yet frees more of it for longer.
    expect(most(jumping)).toBeLessThan(5.5);
    expect(agilityOf(steady, 'leftWrist', trunk)[30]).toBeGreaterThan(1.2);
    expect(agilityOf(jumping, 'leftWrist', trunk)[26]).toBeLessThan(0.6);
  });

  it('goes on over gaps', () => {
    const holed = { ...observations, marks: observations.marks.slice() };
    holed.marks.fill(NaN, 20 * MARK_COUNT * 3, 25 * MARK_COUNT * 3);
    const agility = agilityOf(holed, 'rightElbow', trunk);
    expect(agility.every(Number.isFinite)).toBe(true);
    // What stands still before and after a gap has not moved in it.
    expect(Math.max(...agility)).toBeCloseTo(0.5, 6);
  });
});

describe('the lean of the network', () => {
  it('is taken out: what a leaning network saw becomes what was there', () => {
    const motion = carried();
    const seen = observeMotion(motion, camera, HEIGHT);
    const upright = withoutLean(seen);
    const trunk = (world: Float32Array, f: number): vec3 => {
      const at = (mark: number, k: number): number => world[(f * MARK_COUNT + mark) * 3 + k];
      const line = [0, 1, 2].map(
        (k) => at(MARK.leftShoulder, k) + at(MARK.rightShoulder, k) - at(MARK.leftHip, k) - at(MARK.rightHip, k),
      ) as vec3;
      return vec3.normalize(line, line);
    };
    // In the camera's axes the upright body leans by the camera's tilt alone.
    const up: vec3 = [camera.axes[1], camera.axes[4], camera.axes[7]];
    const angle = (world: Float32Array): number => (vec3.angle(trunk(world, 5), up) * 180) / Math.PI;
    expect(angle(seen.world)).toBeGreaterThan(6);
    expect(angle(upright.world)).toBeLessThan(angle(seen.world) - 6);
    expect(upright.marks).toBe(seen.marks);
  });

  it('turns a vector about an axis and back', () => {
    const axis = vec3.normalize([0, 0, 0], [1, 2, -0.5]);
    const v: vec3 = [0.3, -0.7, 0.2];
    expect(vec3.distance(turnAbout(axis, -0.4, turnAbout(axis, 0.4, v)), v)).toBeLessThan(1e-9);
    const quarter = turnAbout([0, 0, 1], Math.PI / 2, [1, 0, 0]);
    expect(vec3.distance(quarter, [0, 1, 0])).toBeLessThan(1e-9);
  });
});
