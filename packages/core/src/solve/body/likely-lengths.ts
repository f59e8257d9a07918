import { solveLinear } from '../../signal/solve-linear';

/** Bones whose lengths are told together. */
export const LENGTH_NAMES = ['thigh', 'shin', 'torso', 'upperArm', 'foreArm', 'shoulders', 'hips'] as const;
export type LengthName = (typeof LENGTH_NAMES)[number];
export type Lengths = Record<LengthName, number>;

/**
 * How people of one height differ from the average in each length (logarithms): standard deviations and correlations, rounded from the
 * tables of C. Gordon et al., "1988 Anthropometric Survey of U.S. Army Personnel" (1989), from memory, without the
 * tables at hand. What legs have more trunks have less; arms go a little with legs.
 */
const PEOPLE: Lengths = {
  thigh: 0.033,
  shin: 0.035,
  torso: 0.045,
  upperArm: 0.035,
  foreArm: 0.036,
  shoulders: 0.045,
  hips: 0.06,
};
const TOGETHER: readonly (readonly [LengthName, LengthName, number])[] = [
  ['thigh', 'shin', 0.6],
  ['thigh', 'torso', -0.6],
  ['shin', 'torso', -0.6],
  ['upperArm', 'foreArm', 0.6],
  ['thigh', 'upperArm', 0.35],
  ['thigh', 'foreArm', 0.35],
  ['shin', 'upperArm', 0.35],
  ['shin', 'foreArm', 0.35],
  ['torso', 'upperArm', -0.2],
  ['torso', 'foreArm', -0.2],
  ['torso', 'hips', 0.2],
];

const COVARIANCE = LENGTH_NAMES.map((a) =>
  LENGTH_NAMES.map((b) => {
    const known = TOGETHER.find(([x, y]) => (x === a && y === b) || (x === b && y === a));
    return PEOPLE[a] * PEOPLE[b] * (a === b ? 1 : (known?.[2] ?? 0));
  }),
);

/**
 * The likeliest lengths of a body whose measured ones are unsure: the mean of a Gaussian of people given measurements with
 * Gaussian errors (a linear Bayes estimate).
 * @param average lengths of an average body of that height.
 * @param measured NaN where nothing was measured. @param errors standard deviations of their logarithms.
 */
export function likelyLengths(average: Lengths, measured: Lengths, errors: Lengths): Lengths {
  const known = LENGTH_NAMES.flatMap((name, i) => (measured[name] > 0 ? [i] : []));
  const off = known.map((i) => Math.log(measured[LENGTH_NAMES[i]] / average[LENGTH_NAMES[i]]));
  const seen = known.map((i) => known.map((k) => COVARIANCE[i][k] + (i === k ? errors[LENGTH_NAMES[i]] ** 2 : 0)));
  const pull = known.length > 0 ? solveLinear(seen, off) : [];
  return Object.fromEntries(
    LENGTH_NAMES.map((name, i) => [
      name,
      average[name] * Math.exp(known.reduce((sum, k, j) => sum + COVARIANCE[i][k] * pull[j], 0)),
    ]),
  ) as Lengths;
}
