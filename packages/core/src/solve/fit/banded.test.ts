import { describe, expect, it } from '@jest/globals';
import { BandedSystem } from './banded';

describe('the banded system', () => {
  it('solves what a dense elimination solves', () => {
    const system = new BandedSystem(6, 1, 3);
    for (let i = 0; i < 6; i++) system.damp(i, 0.5);
    const rows: [number[], number[], number][] = [
      [[0, 1], [1, -2], 3],
      [[1, 2, 3], [0.5, 1, 1], -1],
      [[3, 4], [2, 1], 0.7],
      [[4, 5], [1, 1], 2],
    ];
    for (const [indices, coefficients, value] of rows)
      system.add(Int32Array.from(indices), Float64Array.from(coefficients), indices.length, value, 2);
    const x = system.solve();
    // The gradient of the whole sum is zero at the solution.
    const gradient = Array.from({ length: 6 }, (_, i) => 0.5 * (x?.[i] ?? NaN));
    for (const [indices, coefficients, value] of rows) {
      const off = indices.reduce((sum, index, i) => sum + coefficients[i] * (x?.[index] ?? NaN), -value);
      indices.forEach((index, i) => (gradient[index] += 2 * coefficients[i] * off));
    }
    for (const value of gradient) expect(Math.abs(value)).toBeLessThan(1e-9);
  });

  it('says when there is no single answer', () => expect(new BandedSystem(3, 1, 2).solve()).toBeNull());

  it.each([
    [40, 1, 12],
    [41, 1, 12],
    [57, 1, 9],
    [23, 1, 23],
    [3, 1, 2],
    [1, 1, 1],
    // Frames of several unknowns: rows of one frame begin at the same place, and pairs of rows lie across two frames.
    [9, 5, 3],
    [8, 7, 2],
    [6, 4, 3],
  ])('solves %i frames of %i unknowns, %i at a time', (frames, width, reach) => {
    const size = frames * width;
    const system = new BandedSystem(frames, width, reach);
    const dense = Array.from({ length: size }, () => new Float64Array(size + 1));
    // Residuals without a pattern: each touches every second unknown of some frames.
    for (let first = 0; first + reach * width <= size; first += width) {
      const indices = Int32Array.from({ length: Math.ceil((reach * width) / 2) }, (_, k) => first + k * 2);
      const coefficients = Float64Array.from(indices, (_, k) => Math.sin(first * 7 + k * 3 + 1));
      const value = Math.cos(first * 5);
      system.add(indices, coefficients, indices.length, value, 1.5);
      indices.forEach((r, i) => {
        dense[r][size] += 1.5 * coefficients[i] * value;
        indices.forEach((c, k) => (dense[r][c] += 1.5 * coefficients[i] * coefficients[k]));
      });
    }
    for (let i = 0; i < size; i++) {
      system.damp(i, 0.3);
      dense[i][i] += 0.3;
    }
    const x = system.solve() as Float64Array;
    for (const row of dense) {
      const left = x.reduce((sum, value, k) => sum + row[k] * value, 0);
      expect(left).toBeCloseTo(row[size], 9);
    }
  });

  it('takes a residual of three parts as it takes the three one by one', () => {
    const indices = Int32Array.of(1, 2, 4, 5);
    const coefficients = Float64Array.from({ length: 12 }, (_, i) => Math.sin(i * 2 + 1));
    const values = Float64Array.of(0.4, -1.2, 2);
    const weights = [2, 0.5, 3];
    const c = Math.SQRT1_2;
    const axes = [
      [c, c, 0],
      [-c, c, 0],
      [0, 0, 1],
    ];
    const [together, apart] = [new BandedSystem(7, 1, 5), new BandedSystem(7, 1, 5)];
    const w = new Float64Array(6);
    axes.forEach((axis, e) => {
      const along = (v: ArrayLike<number>, at: number): number => axis.reduce((sum, a, k) => sum + a * v[at + k], 0);
      apart.add(
        indices,
        Float64Array.from(indices, (_, i) => along(coefficients, i * 3)),
        4,
        along(values, 0),
        weights[e],
      );
      [0, 0, 0, 1, 1, 2].forEach((r, i) => (w[i] += weights[e] * axis[r] * axis[[0, 1, 2, 1, 2, 2][i]]));
    });
    together.addVector(indices, coefficients, 4, values, w);
    for (const system of [together, apart]) for (let i = 0; i < 7; i++) system.damp(i, 0.2);
    const expected = apart.solve() as Float64Array;
    (together.solve() as Float64Array).forEach((value, i) => expect(value).toBeCloseTo(expected[i], 10));
  });

  it('says when it is not positive definite, wherever that shows', () => {
    for (const wrong of [0, 5, 11, 12]) {
      const system = new BandedSystem(13, 1, 6);
      for (let i = 0; i < 13; i++) system.damp(i, i === wrong ? -1 : 1);
      expect(system.solve()).toBeNull();
    }
  });
});
