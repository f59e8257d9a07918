import { HINTED_MARKS } from '@merry-shadow/core/solve/hints/depth-hints';
import { CORRECTED, INPUTS, LOOKED_AT, OUTPUTS } from '@merry-shadow/core/solve/network/network-correction';
import { chance } from '@merry-shadow/synth/population/chance';
import { mapped, type LearnedMap } from '@merry-shadow/core/solve/network/learned-map';
import { correctionText } from './correction-text';
import { addProducts, depthErrorsText, noProducts } from './depth-errors';
import { learnMap } from './ridge';
import { mirrored, type Sample } from './samples';
import { rawAgainst, trainCorrection } from './train-correction';

const { around } = chance(3);

/** Bodies whose left knee the network sets too far ahead, the farther the more the left hip is aside. */
function faulty(count: number): Sample[] {
  const knee = CORRECTED.indexOf('leftKnee') * 3;
  return Array.from({ length: count }, (_, i) => {
    const input = Float32Array.from({ length: INPUTS }, () => around(0, 1));
    const joints = Float32Array.from({ length: OUTPUTS }, () => around(0, 0.2));
    const points = joints.slice();
    points[knee + 2] += 0.08 + 0.04 * input[LOOKED_AT.indexOf('leftHip') * 6];
    return { clip: `clip ${i % 4}`, input, points, joints };
  });
}

describe('learning a correction', () => {
  it('finds a planted fault, also in the mirror, and helps on frames it has not seen', () => {
    // Both knees have it in the mirror's eyes: each side's fault is learned from both.
    const both = (samples: Sample[]): Sample[] => samples.flatMap((sample) => [sample, mirrored(sample)]);
    const correction = trainCorrection(both(faulty(300)), 0);
    expect(rawAgainst(faulty(60), correction)).toBeLessThan(0.9);
  });

  it('is the same again', () => {
    const [a, b] = [0, 1].map(() => trainCorrection(faultless, 4));
    expect(a.body.bells).toEqual(b.body.bells);
  });
  const faultless = faulty(20);
});

describe('learning a map', () => {
  const LEARN = { ridge: 1e-4, bells: 0, narrow: 2, bellRidge: 0.01 };
  const inputs = Array.from({ length: 400 }, () => Float32Array.of(around(0, 1), around(3, 2)));
  const worst = (map: LearnedMap, targets: readonly Float32Array[]): number =>
    Math.max(...inputs.map((input, n) => Math.abs(mapped(map, input)[0] - targets[n][0])));

  it('finds a linear one, though some samples are far off', () => {
    const straight = inputs.map(([a, b]) => Float32Array.of(0.3 * a - 0.1 * b + 2));
    const spoilt = straight.map((target, n) => (n % 40 === 0 ? Float32Array.of(target[0] + 5) : target));
    expect(worst(learnMap(inputs, straight, LEARN), straight)).toBeLessThan(0.01);
    expect(
      Math.abs(learnMap(inputs, spoilt, LEARN).linear[0][0] - learnMap(inputs, straight, LEARN).linear[0][0]),
    ).toBeLessThan(0.05);
  });

  it('finds by bells what is not linear', () => {
    const bent = inputs.map(([a]) => Float32Array.of(Math.abs(a)));
    const mean = (map: LearnedMap): number =>
      inputs.reduce((sum, input, n) => sum + Math.abs(mapped(map, input)[0] - bent[n][0]), 0) / inputs.length;
    expect(mean(learnMap(inputs, bent, { ...LEARN, bells: 60 }))).toBeLessThan(
      0.2 * mean(learnMap(inputs, bent, LEARN)),
    );
  });
});

describe('a learned correction as a file', () => {
  it('has all rows, each number to five digits', () => {
    const map = (rows: number, bells: number): LearnedMap => ({
      mean: Float32Array.of(0.123456, -2e-7),
      scale: Float32Array.of(1, 0.05),
      linear: Array.from({ length: rows }, () => Float32Array.of(1, 2, 1 / 3)),
      centres: Array.from({ length: bells }, () => Float32Array.of(0, 1)),
      bells: Array.from({ length: bells }, () => new Float32Array(rows)),
      narrow: 4,
    });
    const text = correctionText({ camera: map(3, 0), body: map(3, 2), share: 0.75 });
    expect(text).toContain('mean: row(0.12346, -2e-7),');
    expect(text.match(/row\(1, 2, 0\.33333\)/g)).toHaveLength(6);
    expect(text.match(/row\(0, 1\)/g)).toHaveLength(2);
    expect(text).toContain('share: 0.75,');
  });
});

describe('how depths err together', () => {
  it('is told of both sides alike, after a correction', () => {
    const samples = faulty(200);
    const nothing = trainCorrection(faulty(40), 0);
    const still = { ...nothing, share: 0 };
    const products = noProducts();
    addProducts(products, samples, still);
    expect(products.frames).toBe(400);
    const rows = depthErrorsText(products).match(/^ {2}\[.*\],$/gm) ?? [];
    const table = rows.map((row) => JSON.parse(row.slice(0, -1)) as number[]);
    const [left, right] = ['leftKnee', 'rightKnee'].map((mark) => HINTED_MARKS.indexOf(mark as 'leftKnee'));
    // Half of the frames have the fault, 0.08 ± 0.04 body heights, on the left, their mirrors on the right.
    expect(table[left][left]).toBeCloseTo(0.5 * (0.08 ** 2 + 0.04 ** 2) * 1e4, -1);
    expect(table[left][left]).toBeCloseTo(table[right][right], 6);
    expect(table[left][right]).toBe(0);
    const corrected = noProducts();
    addProducts(corrected, samples, nothing);
    expect(corrected.sums[left][left]).toBeLessThan(products.sums[left][left]);
  });
});

describe('a frame in the mirror', () => {
  it('swaps left and right, turns over what lies aside, and comes back', () => {
    const [sample] = faulty(1);
    const other = mirrored(sample);
    const [left, right] = ['leftElbow', 'rightElbow'].map((mark) => CORRECTED.indexOf(mark as 'leftElbow') * 3);
    expect(other.joints[left]).toBeCloseTo(-sample.joints[right], 6);
    expect(other.joints[left + 1]).toBeCloseTo(sample.joints[right + 1], 6);
    expect(other.input[INPUTS - 2]).toBeCloseTo(-sample.input[INPUTS - 2], 6);
    expect(Array.from(mirrored(other).input)).toEqual(Array.from(sample.input));
  });
});
