import { bellAt, scaled, type LearnedMap } from '@merry-shadow/core/solve/network/learned-map';
import { chance } from '@merry-shadow/synth/population/chance';

/** How a map is learned. */
export interface RidgeOptions {
  /** What holds linear weights small, against scaled inputs of the size of one. */
  ridge: number;
  /** How many bells, how narrow, and what holds them low, for each thousandth of the samples. */
  bells: number;
  narrow: number;
  bellRidge: number;
}

/** Added to the deviation of inputs, so that what hardly varies is not blown up. */
const SLACK = 0.05;
/** Samples that are farther off than this count less: root mean square of their outputs' errors. */
const USUAL = 0.4;
const ROUNDS = 3;

/**
 * Learns a map by least squares with a ridge (A. Hoerl and R. Kennard, 1970), samples far off reweighted; then bells about samples drawn at
 * random for what that leaves (kernel ridge regression on a subset; C. Williams and M. Seeger, "Using the Nyström method to speed up kernel machines", 2001).
 */
export function learnMap(
  inputs: readonly Float32Array[],
  targets: readonly Float32Array[],
  { ridge, bells, narrow, bellRidge }: RidgeOptions,
): LearnedMap {
  const [width, outputs] = [inputs[0].length, targets[0].length];
  const mean = Float32Array.from({ length: width }, (_, i) => average(inputs, (input) => input[i]));
  const scale = Float32Array.from(
    { length: width },
    (_, i) => Math.sqrt(average(inputs, (input) => (input[i] - mean[i]) ** 2)) + SLACK,
  );
  const middle = Float64Array.from({ length: outputs }, (_, k) => average(targets, (target) => target[k]));
  const rows = inputs.map((input) => Float64Array.from(scaled({ mean, scale }, input)));
  const wanted = targets.map((target) => Float64Array.from(target, (value, k) => value - middle[k]));
  let weights = new Float64Array(rows.length).fill(1);
  let linear: Float64Array[] = [];
  for (let round = 0; round < ROUNDS; round++) {
    const whole = weights.reduce((sum, weight) => sum + weight, 0);
    linear = leastSquares(
      rows,
      wanted,
      weights.map((weight) => weight / whole),
      (i, j) => (i === j ? ridge : 0),
    );
    weights = Float64Array.from(rows, (row, n) => {
      const off = wanted[n].map((value, k) => value - dot(linear[k], row));
      return 1 / Math.max(1, Math.sqrt(average(Array.from(off), (value) => value * value)) / USUAL);
    });
  }
  const { of } = chance(11);
  const centres = Array.from({ length: bells }, () => Float32Array.from(of(rows)));
  const left = rows.map((row, n) => wanted[n].map((value, k) => value - dot(linear[k], row)));
  const near = rows.map((row) => Float64Array.from(centres, (centre) => bellAt(row, centre, narrow)));
  const hold = (bellRidge * rows.length) / 1000;
  const found =
    bells === 0
      ? []
      : leastSquares(
          near,
          left,
          new Float64Array(rows.length).fill(1),
          (i, j) => hold * (bellAt(centres[i], centres[j], narrow) + (i === j ? 1e-3 : 0)),
        );
  return {
    mean,
    scale,
    linear: linear.map((row, k) => Float32Array.of(...row, middle[k])),
    centres,
    bells: centres.map((_, c) => Float32Array.from(found, (row) => row[c])),
    narrow,
  };
}

const average = <T>(list: readonly T[], of: (item: T) => number): number =>
  list.reduce((sum, item) => sum + of(item), 0) / list.length;

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}

/**
 * Weighted least squares with a penalty, by its normal equations and Cholesky's method.
 * @param hold the penalty's matrix. @returns a row of weights for each column of the targets.
 */
function leastSquares(
  rows: readonly Float64Array[],
  targets: readonly Float64Array[],
  weights: Float64Array,
  hold: (i: number, j: number) => number,
): Float64Array[] {
  const width = rows[0].length;
  const matrix = Array.from({ length: width }, (_, i) => Float64Array.from({ length: i + 1 }, (__, j) => hold(i, j)));
  const right = Array.from({ length: targets[0].length }, () => new Float64Array(width));
  rows.forEach((row, n) => {
    for (let i = 0; i < width; i++) {
      const part = weights[n] * row[i];
      for (let j = 0; j <= i; j++) matrix[i][j] += part * row[j];
      for (let k = 0; k < right.length; k++) right[k][i] += part * targets[n][k];
    }
  });
  for (let i = 0; i < width; i++)
    for (let j = 0; j <= i; j++) {
      let sum = matrix[i][j];
      for (let m = 0; m < j; m++) sum -= matrix[i][m] * matrix[j][m];
      matrix[i][j] = i === j ? Math.sqrt(Math.max(1e-12, sum)) : sum / matrix[j][j];
    }
  for (const column of right) {
    for (let i = 0; i < width; i++) {
      for (let m = 0; m < i; m++) column[i] -= matrix[i][m] * column[m];
      column[i] /= matrix[i][i];
    }
    for (let i = width - 1; i >= 0; i--) {
      for (let m = i + 1; m < width; m++) column[i] -= matrix[m][i] * column[m];
      column[i] /= matrix[i][i];
    }
  }
  return right;
}
