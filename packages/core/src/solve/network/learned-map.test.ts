import { bellAt, mapped, type LearnedMap } from './learned-map';

const LINEAR: LearnedMap = {
  mean: Float32Array.of(1, 0),
  scale: Float32Array.of(2, 0.5),
  linear: [Float32Array.of(1, 0, 3), Float32Array.of(0, -2, 0)],
  centres: [],
  bells: [],
  narrow: 2,
};

describe('a learned map', () => {
  it('is linear in scaled inputs where it has no bells', () => {
    expect(Array.from(mapped(LINEAR, Float32Array.of(5, 1)))).toEqual([5, -4]);
    expect(Array.from(mapped(LINEAR, Float32Array.of(1, 0)))).toEqual([3, 0]);
  });

  it('has bells that add all they have in their middle, less to the sides and nothing far away', () => {
    const map = { ...LINEAR, centres: [Float32Array.of(2, 2)], bells: [Float32Array.of(10, 20)] };
    const added = (...input: number[]): number =>
      mapped(map, Float32Array.from(input))[1] - mapped(LINEAR, Float32Array.from(input))[1];
    expect(added(5, 1)).toBeCloseTo(20, 4);
    // One deviation aside in both: exp(-2 · 1).
    expect(added(7, 1.5)).toBeCloseTo(20 * Math.exp(-2), 4);
    expect(added(50, -20)).toBeCloseTo(0, 4);
  });

  it('counts differences by their mean, however many inputs there are', () => {
    expect(bellAt([1, 1, 1, 1], [0, 0, 0, 0], 3)).toBeCloseTo(bellAt([1], [0], 3), 10);
  });
});
