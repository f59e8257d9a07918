import { correlation } from '../measure/correlation';
import { coverReach, coverSmoothly } from './cover';
import { oneEuroBothWays } from './one-euro';
import { inverted, solveLinear } from './solve-linear';

const RATE = 60;
const OPTIONS = { least: 1.5, beta: 6 };

describe('the one-euro filter, both ways', () => {
  it('calms what rests', () => {
    const noisy = Float64Array.from({ length: 240 }, (_, i) => 0.5 + (i % 2 ? 0.01 : -0.01));
    const calm = oneEuroBothWays(noisy, RATE, OPTIONS);
    for (let i = 20; i < 220; i++) expect(Math.abs(calm[i] - 0.5)).toBeLessThan(0.004);
  });

  it('keeps the height and the moment of what is fast', () => {
    const blink = Float64Array.from({ length: 240 }, (_, i) => Math.max(0, 1 - Math.abs(i - 120) / 6));
    const calm = oneEuroBothWays(blink, RATE, { least: 1.5, beta: 30 });
    const top = calm.indexOf(Math.max(...calm));
    expect(Math.abs(top - 120)).toBeLessThanOrEqual(1);
    expect(calm[top]).toBeGreaterThan(0.75);
  });

  it('leaves a constant as it is, and the values that it was given', () => {
    const same = new Float64Array(20).fill(0.3);
    expect([...oneEuroBothWays(same, RATE, OPTIONS)]).toEqual([...same]);
    const given = [1, 2, 3];
    oneEuroBothWays(given, RATE, OPTIONS);
    expect(given).toEqual([1, 2, 3]);
  });
});

describe('covering values smoothly', () => {
  it('is nowhere below them, and reaches no farther than it says', () => {
    const values = new Float64Array(80);
    values[40] = 1;
    values[41] = 0.4;
    const wide = 4;
    const cover = coverSmoothly(values, wide);
    values.forEach((value, i) => expect(cover[i]).toBeGreaterThanOrEqual(value - 0.07));
    expect(cover[40]).toBeGreaterThan(0.9);
    const reach = coverReach(wide);
    for (let i = 0; i < 80; i++) if (i < 40 - reach || i > 41 + reach) expect(cover[i]).toBe(0);
  });
});

describe('correlation', () => {
  it('is 1 for what goes along, −1 for what goes against it, and near 0 for what does neither', () => {
    const a = Array.from({ length: 200 }, (_, i) => Math.sin(i / 9));
    expect(correlation(a, a.map((value) => 3 * value + 2))).toBeCloseTo(1, 9); // prettier-ignore
    expect(correlation(a, a.map((value) => -value))).toBeCloseTo(-1, 9); // prettier-ignore
    expect(Math.abs(correlation(a, a.map((_, i) => Math.cos(i * 2.3))))).toBeLessThan(0.1); // prettier-ignore
  });
});

describe('a small system', () => {
  it('is solved, whatever its order', () => {
    const matrix = [
      [0, 2, 1],
      [1, 1, 0],
      [3, 0, -1],
    ];
    const x = [1.5, -2, 4];
    const right = matrix.map((row) => row.reduce((sum, value, k) => sum + value * x[k], 0));
    solveLinear(matrix, right).forEach((value, k) => expect(value).toBeCloseTo(x[k], 9));
    inverted(matrix).forEach((row, i) => {
      expect(row.reduce((sum, value, k) => sum + value * right[k], 0)).toBeCloseTo(x[i], 9);
    });
  });
});
