import { solveLinear } from '../signal/solve-linear';

/** What is believed of an unknown beforehand: a Gaussian. */
export interface Prior {
  mean: number;
  sigma: number;
}

const HUBER = 2;
const ROUNDS = 25;
const STEP = 1e-5;

/**
 * Robust least squares of a few unknowns with Gaussian priors: damped Gauss–Newton steps (Levenberg 1944, Marquardt 1963) on reweighted
 * residuals (Huber 1964), the Jacobian by differences.
 * @param residuals in standard deviations. @param weights how often each counts.
 * @returns the likeliest values and the standard deviation of each.
 */
export function leastSquares(
  residuals: (values: readonly number[]) => number[],
  weights: readonly number[],
  start: readonly number[],
  priors: readonly Prior[],
): { values: number[]; deviations: number[] } {
  let values = [...start];
  let damping = 1e-3;
  const robust = (r: number): number => (Math.abs(r) <= HUBER ? r * r : 2 * HUBER * Math.abs(r) - HUBER * HUBER);
  const cost = (p: readonly number[], r: readonly number[]): number =>
    r.reduce((sum, value, i) => sum + weights[i] * robust(value), 0) +
    priors.reduce((sum, { mean, sigma }, k) => sum + ((p[k] - mean) / sigma) ** 2, 0);
  /** Normal equations at a place: matrix by rows, and right-hand side. */
  const normal = (p: readonly number[], r: readonly number[]): [number[][], number[]] => {
    const jacobians = p.map((value, k) => {
      const shifted = residuals(p.map((other, i) => (i === k ? value + STEP : other)));
      return shifted.map((other, i) => (other - r[i]) / STEP);
    });
    const factors = r.map((value, i) => weights[i] * (Math.abs(value) > HUBER ? HUBER / Math.abs(value) : 1));
    const a = jacobians.map((one) =>
      jacobians.map((other) => one.reduce((sum, jacobian, i) => sum + factors[i] * jacobian * other[i], 0)),
    );
    const b = jacobians.map((one) => -one.reduce((sum, jacobian, i) => sum + factors[i] * jacobian * r[i], 0));
    priors.forEach(({ mean, sigma }, k) => {
      a[k][k] += 1 / sigma ** 2;
      b[k] += (mean - p[k]) / sigma ** 2;
    });
    return [a, b];
  };
  let r = residuals(values);
  for (let round = 0; round < ROUNDS; round++) {
    const [a, b] = normal(values, r);
    const step = solveLinear(
      a.map((row, k) => row.map((value, i) => (i === k ? value * (1 + damping) : value))),
      b,
    );
    const next = values.map((value, k) => value + step[k]);
    const there = residuals(next);
    if (cost(next, there) < cost(values, r)) {
      [values, r] = [next, there];
      damping /= 5;
    } else damping *= 8;
    if (Math.max(...step.map(Math.abs)) < 1e-7) break;
  }
  const [a] = normal(values, r);
  const deviations = a.map((_, k) =>
    Math.sqrt(
      Math.max(
        0,
        solveLinear(
          a,
          start.map((__, i) => (i === k ? 1 : 0)),
        )[k],
      ),
    ),
  );
  return { values, deviations };
}
