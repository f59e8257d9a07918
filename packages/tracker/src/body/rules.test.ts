import type { Net } from '../runtime/net';
import { anchorCentres, BodyDetector, mergeOverlapping, overlap, type Detection } from './detector';
import { refine } from './marks';
import { OneEuroFilter } from './one-euro';
import { bodyRegion } from './region';

describe('detector', () => {
  it('has 2254 anchors: 28², 14² and 7² cells', () => {
    const centres = anchorCentres();
    expect(centres).toHaveLength(2254 * 2);
    for (const value of centres.subarray(0, 4)) expect(value * 28).toBeCloseTo(0.5, 5);
    expect(centres[(28 * 28 * 2 + 2) * 2] * 14).toBeCloseTo(1.5, 5);
    expect(centres[4507] * 7).toBeCloseTo(6.5, 5);
  });

  it('reads boxes and points relative to their anchor, in pixels of a letterboxed picture', async () => {
    const values = new Float32Array(2254 * 12);
    const logits = new Float32Array(2254).fill(-20);
    const anchor = 14 * 28 * 2 + 14 * 2;
    logits[anchor] = 4;
    values.set([11.2, 0, 44.8, 22.4, 0, 0, 0, -22.4, 0, 0, 0, 0], anchor * 12);
    const net: Net = { planar: true, run: async () => [values, logits], close: async () => undefined };
    const [found] = await new BodyDetector(net).find({ width: 200, height: 100, data: new Uint8Array(60000) });
    const centre = (14.5 / 28) * 200;
    expect(found.score).toBeCloseTo(1 / (1 + Math.exp(-4)), 5);
    expect(found.box.map((v) => Number(v.toFixed(3)))).toEqual(
      [centre + 10 - 20, centre - 50 - 10, centre + 10 + 20, centre - 50 + 10].map((v) => Number(v.toFixed(3))),
    );
    expect(found.points[0]).toBeCloseTo(centre, 3);
    expect(found.points[3]).toBeCloseTo(centre - 50 - 20, 3);
  });

  it('merges overlapping candidates by score and keeps the others', () => {
    const one = (score: number, x: number): Detection => ({ score, box: [x, 0, x + 10, 10], points: [x, 5] });
    const merged = mergeOverlapping([one(0.6, 2), one(0.9, 0), one(0.7, 50)]);
    expect(merged).toHaveLength(2);
    expect(merged[0].score).toBe(0.9);
    expect(merged[0].points[0]).toBeCloseTo((0.6 * 2) / 1.5, 9);
    expect(overlap([0, 0, 10, 10], [5, 0, 15, 10])).toBeCloseTo(1 / 3, 9);
    expect(overlap([0, 0, 1, 1], [2, 2, 3, 3])).toBe(0);
  });
});

describe('region', () => {
  it('is upright for an upright body and turns with it', () => {
    const upright = bodyRegion(100, 200, 100, 120);
    expect(upright).toEqual({ x: 100, y: 200, size: 200, angle: expect.closeTo(0, 9) });
    expect(bodyRegion(100, 200, 180, 200).angle).toBeCloseTo(Math.PI / 2, 9);
    expect(bodyRegion(100, 200, 20, 200).angle).toBeCloseTo(-Math.PI / 2, 9);
    expect(Math.abs(bodyRegion(100, 200, 100, 280).angle)).toBeCloseTo(Math.PI, 9);
  });
});

describe('heat-map refinement', () => {
  const map = new Float32Array(39 * 64 * 64).fill(-30);
  map[5 * 4096 + 20 * 64 + 31] = 3;
  map[5 * 4096 + 20 * 64 + 32] = 3;

  it('moves a mark to the centroid of a sure map', () => {
    expect(refine(map, true, 5, 30.5 / 64, 20.5 / 64)).toEqual([
      expect.closeTo(31.5 / 64, 6),
      expect.closeTo(20 / 64, 6),
    ]);
  });

  it('leaves it where the map is unsure, too far away, or the mark outside', () => {
    expect(refine(map, true, 6, 0.4, 0.4)).toEqual([0.4, 0.4]);
    expect(refine(map, true, 5, 10 / 64, 20 / 64)).toEqual([10 / 64, 20 / 64]);
    expect(refine(map, true, 5, 1.2, 0.5)).toEqual([1.2, 0.5]);
  });

  it('reads both layouts alike', () => {
    const mixed = new Float32Array(map.length);
    for (let m = 0; m < 39; m++) for (let i = 0; i < 4096; i++) mixed[i * 39 + m] = map[m * 4096 + i];
    expect(refine(mixed, false, 5, 0.47, 0.31)).toEqual(refine(map, true, 5, 0.47, 0.31));
  });
});

describe('one-euro filter', () => {
  it('starts at the first value, rests on a constant, and follows fast moves more closely than slow ones', () => {
    const filter = () => new OneEuroFilter({ minCutoff: 0.01, beta: 10, derivativeCutoff: 1 });
    const still = filter();
    for (let i = 0; i < 5; i++) expect(still.next(7, 1 / 30, 0.01)).toBe(7);
    const lag = (step: number): number => {
      const moving = filter();
      let value = 0;
      for (let i = 0; i <= 30; i++) value = moving.next(i * step, 1 / 30, 0.01);
      return (30 * step - value) / step;
    };
    expect(lag(8)).toBeLessThan(lag(1) / 2);
    still.reset();
    expect(still.next(3, 1 / 30, 0.01)).toBe(3);
  });
});
