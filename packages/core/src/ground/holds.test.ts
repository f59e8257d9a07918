import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { restMotion } from '../motion/motion';
import { soleTrack } from './floor';
import { holdsOf } from './holds';
import { Plant, plantedPoints } from './plants';

const FRAMES = 40;
const motion = restMotion(humanoidSkeleton(averageProportions(1.7)), FRAMES, 30);
for (let f = 0; f < FRAMES; f++) motion.root[f * 3] = f * 0.01;
const points = plantedPoints(motion);
const track = soleTrack(motion, points);
const at = (part: string, frame: number, axis: number): number =>
  track[(frame * points.length + points.findIndex(({ name }) => name === part)) * 3 + axis];
const holds = (...plants: object[]) =>
  holdsOf(
    FRAMES,
    points,
    plants.map((plant) => Plant.parse(plant)),
    track,
  );

describe('what plants hold', () => {
  it('is where the part was in the middle of its span, feet on the floor, hands where they were', () => {
    const { leftHeel, rightHand } = holds(
      { part: 'leftHeel', from: 10, until: 21 },
      { part: 'rightHand', from: 10, until: 21 },
    );
    expect(leftHeel.places[15 * 3]).toBeCloseTo(at('leftHeel', 15, 0), 6);
    expect(leftHeel.places[15 * 3 + 1]).toBe(0);
    expect(rightHand.places[15 * 3 + 1]).toBeCloseTo(at('rightHand', 15, 1), 6);
  });

  it('is on the thing that a foot stands on, high above the floor, and on the floor a little above it', () => {
    const lifted = (metres: number): Float64Array => track.map((value, i) => value + (i % 3 === 1 ? metres : 0));
    const heelAt = (metres: number): number =>
      holdsOf(FRAMES, points, [Plant.parse({ part: 'leftHeel', from: 10, until: 21 })], lifted(metres)).leftHeel.places[
        15 * 3 + 1
      ];
    expect(heelAt(0.4)).toBeCloseTo(at('leftHeel', 15, 1) + 0.4, 6);
    expect(heelAt(0.06)).toBe(0);
  });

  it('is firm within the span and eases beside it', () => {
    const { weights } = holds({ part: 'leftToe', from: 10, until: 20, ease: 4 }).leftToe;
    expect([...weights.subarray(10, 20)]).toEqual(Array(10).fill(1));
    expect([weights[5], weights[24]]).toEqual([0, 0]);
    for (const [a, b] of [
      [6, 7],
      [7, 8],
      [9, 10],
    ])
      expect(weights[b]).toBeGreaterThan(weights[a]);
    for (let k = 1; k <= 4; k++) expect(weights[10 - k]).toBeCloseTo(weights[19 + k], 9);
  });

  it('is the place that a person gave, and the foot stays as long as it is beside it', () => {
    const given = holds({ part: 'leftHeel', from: 5, until: 15, place: [0.4, 0, 0.2] }).leftHeel;
    expect([...given.places.subarray(30, 33)]).toEqual([0.4, 0, 0.2]);
    const { leftHeel, leftToe } = holds(
      { part: 'leftHeel', from: 0, until: 12 },
      { part: 'leftToe', from: 4, until: 30 },
    );
    const apart = Math.hypot(...[0, 1, 2].map((k) => leftHeel.places[24 + k] - leftToe.places[24 + k]));
    const foot = Math.hypot(...[0, 1, 2].map((k) => at('leftHeel', 0, k) - at('leftToe', 0, k)));
    expect(apart).toBeCloseTo(foot, 6);
  });

  it('goes from one place to the next where two plants of a part meet', () => {
    const { weights, places } = holds(
      { part: 'rightToe', from: 0, until: 10, ease: 6, place: [0, 0, 0] },
      { part: 'rightToe', from: 14, until: 30, ease: 6, place: [1, 0, 0] },
    ).rightToe;
    const way = Array.from({ length: 6 }, (_, i) => places[(9 + i) * 3]);
    expect(way[0]).toBeLessThan(0.2);
    expect(way[5]).toBeGreaterThan(0.8);
    way.slice(1).forEach((x, i) => expect(x).toBeGreaterThanOrEqual(way[i]));
    expect(weights[12]).toBeGreaterThan(0.3);
  });

  it('ends with the take, and is nothing for a plant beyond it', () => {
    const { leftHeel, rightHeel } = holds(
      { part: 'leftHeel', from: 30, until: 90 },
      { part: 'rightHeel', from: 60, until: 90 },
    );
    expect(leftHeel.weights[FRAMES - 1]).toBe(1);
    expect(rightHeel.weights.every((weight) => weight === 0)).toBe(true);
  });
});
