import { vec3 } from 'gl-matrix';
import { observeMotion } from '../../../test/observe-motion';
import { lookAt } from '../../camera/pinhole';
import { averageProportions, humanoidSkeleton } from '../../motion/humanoid';
import { restMotion, type Motion } from '../../motion/motion';
import { MARK, MARK_COUNT } from '../../observe/body';
import { sampleMotion } from '../../passes/sample-motion';
import { turnAbout, withoutLean } from '../network-lean';
import { AT_REST, agilityOf, FAST } from './agility';
import { pictureRun } from './sole-picture';

const HEIGHT = 1.7;
const camera = lookAt([0.3, 1.4, 5], [0, 0.9, 0], 52, 960, 540);

/** Somebody who stands still for a second and then is carried away from the camera, feet on the floor. */
function carried(frames = 60): Motion {
  const motion = restMotion(humanoidSkeleton(averageProportions(HEIGHT)), frames, 30);
  for (let f = 30; f < frames; f++) motion.root[f * 3 + 2] -= (f - 30) * 0.04;
  return motion;
}

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
  const observations = observeMotion(restMotion(humanoidSkeleton(averageProportions(HEIGHT)), 60, 30), camera, HEIGHT);
  const trunk = new Float64Array(60).fill(100);

  it('is least for what is still, whatever shakes by a pixel', () => {
    const shaking = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < 60; f++) shaking.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += f % 2 ? 0.5 : -0.5;
    expect(Math.max(...agilityOf(observations, 'leftWrist', trunk))).toBeCloseTo(AT_REST, 6);
    expect(Math.max(...agilityOf(shaking, 'leftWrist', trunk))).toBeLessThan(AT_REST + 0.1);
  });

  it('grows with the speed of the picture, in trunks a second', () => {
    const moving = { ...observations, marks: observations.marks.slice() };
    for (let f = 0; f < 60; f++) moving.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += f * 20;
    // 600 px a second are six trunks, three metres; with a trunk of twice the size it is half of that.
    expect(agilityOf(moving, 'leftWrist', trunk)[30]).toBeCloseTo(AT_REST + 3 / FAST, 1);
    expect(agilityOf(moving, 'leftWrist', new Float64Array(60).fill(200))[30]).toBeCloseTo(AT_REST + 1.5 / FAST, 1);
  });

  it('is not given to a mark that jumps once and stays', () => {
    const jumping = { ...observations, marks: observations.marks.slice() };
    for (let f = 30; f < 60; f++) jumping.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += 40;
    const steady = { ...observations, marks: observations.marks.slice() };
    for (let f = 25; f < 60; f++) steady.marks[(f * MARK_COUNT + MARK.leftWrist) * 3] += Math.min(10, f - 25) * 4;
    const most = (seen: typeof jumping): number => Math.max(...agilityOf(seen, 'leftWrist', trunk));
    // The same way in a third of a second is slower, and yet frees more of it for longer.
    expect(most(jumping)).toBeLessThan(AT_REST + 3 / FAST);
    expect(agilityOf(steady, 'leftWrist', trunk)[30]).toBeGreaterThan(AT_REST + 0.7);
    expect(agilityOf(jumping, 'leftWrist', trunk)[26]).toBeLessThan(AT_REST + 0.1);
  });

  it('goes on over gaps', () => {
    const holed = { ...observations, marks: observations.marks.slice() };
    holed.marks.fill(NaN, 20 * MARK_COUNT * 3, 25 * MARK_COUNT * 3);
    const agility = agilityOf(holed, 'rightElbow', trunk);
    expect(agility.every(Number.isFinite)).toBe(true);
    // What stands still before and after a gap has not moved in it.
    expect(Math.max(...agility)).toBeCloseTo(AT_REST, 6);
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
