import { solveLinear } from '../../signal/solve-linear';
import { leastSquares } from '../least-squares';
import { LENGTH_NAMES, likelyLengths, type Lengths } from './likely-lengths';

const average = Object.fromEntries(LENGTH_NAMES.map((name, i) => [name, 0.2 + 0.05 * i])) as Lengths;
const each = (value: number): Lengths => Object.fromEntries(LENGTH_NAMES.map((name) => [name, value])) as Lengths;
const scaled = (changes: Partial<Lengths>): Lengths =>
  Object.fromEntries(LENGTH_NAMES.map((name) => [name, average[name] * (changes[name] ?? 1)])) as Lengths;

describe('the likeliest lengths of a body', () => {
  it('are the measured ones where these are sure, and an average body without any', () => {
    const measured = scaled({ thigh: 1.05, shin: 1.03, torso: 0.95, hips: 1.1 });
    const sure = likelyLengths(average, measured, each(1e-4));
    for (const name of LENGTH_NAMES) expect(sure[name]).toBeCloseTo(measured[name], 4);
    expect(likelyLengths(average, each(NaN), each(0.1))).toEqual(average);
  });

  it('lie the nearer to the average the less sure they are', () => {
    const measured = scaled({ upperArm: 1.2 });
    const [little, much] = [0.03, 0.1].map((error) => likelyLengths(average, measured, each(error)).upperArm);
    expect(little).toBeLessThan(measured.upperArm);
    expect(much).toBeLessThan(little);
    expect(much).toBeGreaterThan(average.upperArm);
  });

  it('tell a bone that was not seen by those that go with it', () => {
    const told = likelyLengths(average, { ...scaled({ thigh: 1.06 }), shin: NaN }, each(0.01));
    expect(told.shin).toBeGreaterThan(average.shin * 1.01);
    expect(told.shin).toBeLessThan(average.shin * 1.06);
  });
});

describe('robust least squares', () => {
  const at = Array.from({ length: 40 }, (_, i) => i / 10);
  const line = (outliers: number): number[] => at.map((x, i) => 2 + 0.5 * x + (i < outliers ? 30 : 0));

  it('finds a line in spite of outliers, and tells how surely', () => {
    const seen = line(5);
    const { values, deviations } = leastSquares(
      ([a, b]) => at.map((x, i) => (a + b * x - seen[i]) / 0.1),
      at.map(() => 1),
      [0, 0],
      [
        { mean: 0, sigma: 100 },
        { mean: 0, sigma: 100 },
      ],
    );
    expect(Math.abs(values[0] - 2)).toBeLessThan(0.3);
    expect(Math.abs(values[1] - 0.5)).toBeLessThan(0.1);
    expect(deviations[0]).toBeLessThan(0.1);
  });

  it('stays with what was believed where nothing is seen', () => {
    const { values, deviations } = leastSquares(() => [0], [1], [0], [{ mean: 3, sigma: 0.2 }]);
    expect(values[0]).toBeCloseTo(3, 6);
    expect(deviations[0]).toBeCloseTo(0.2, 6);
  });

  it('solves small systems', () => {
    expect(solveLinear([[0, 2], [3, 1]], [4, 5])).toEqual([1, 2]); // prettier-ignore
  });
});
