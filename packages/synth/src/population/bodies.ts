import type { Body } from '../choreography/script';
import type { Chance } from './chance';

/** Groups of people that bodies are drawn from. */
export const PEOPLE = ['woman', 'man', 'child', 'tall', 'heavy'] as const;
export type People = (typeof PEOPLE)[number];

/**
 * Height in metres, and parts against the table of average proportions, each with its deviation. Heights, widths and limbs of
 * women and men and the deviations of limbs at a given height are rounded from C. Gordon et al., "1988 Anthropometric Survey of
 * U.S. Army Personnel" (1989); children's legs and heads from the growth tables in D. Tanner's "Foetus into Man" (1978). They were rounded from
 * memory, without the tables at hand.
 */
interface Means {
  height: [mean: number, deviation: number];
  girth: [number, number];
  legs: number;
  arms: number;
  shoulders: number;
  hips: number;
  head: number;
}

const MEANS: Record<Exclude<People, 'child'>, Means> = {
  woman: {
    height: [1.63, 0.064],
    girth: [0.95, 0.07],
    legs: 0.99,
    arms: 0.98,
    shoulders: 0.95,
    hips: 1.08,
    head: 1.02,
  },
  man: { height: [1.756, 0.067], girth: [1.02, 0.07], legs: 1, arms: 1.01, shoulders: 1.03, hips: 0.97, head: 1 },
  tall: { height: [1.92, 0.04], girth: [0.98, 0.06], legs: 1.03, arms: 1.02, shoulders: 1, hips: 0.97, head: 0.94 },
  heavy: { height: [1.7, 0.08], girth: [1.28, 0.06], legs: 0.99, arms: 0.99, shoulders: 1.03, hips: 1.1, head: 1 },
};
/** What remains free once the height is known. */
const DEVIATION = { legs: 0.026, arms: 0.03, shoulders: 0.04, hips: 0.05, head: 0.025, shins: 0.025, foreArms: 0.028 };
/** Long legs go with long arms, broad shoulders and hips with girth. */
const LEGS_WITH_ARMS = 0.5;
const WIDTH_WITH_GIRTH = 0.4;

/** Draws a body. */
export function drawBody(people: People, { around, between }: Chance): Partial<Body> {
  const means = people === 'child' ? child(between(1.12, 1.5)) : MEANS[people];
  const girth = around(0, 1);
  const limbs = around(0, 1);
  /** A deviation of which a part goes with another. */
  const along = (shared: number, correlation: number): number =>
    correlation * shared + Math.sqrt(1 - correlation ** 2) * around(0, 1);
  const near = (value: number, low: number, high: number): number =>
    Number(Math.min(high, Math.max(low, value)).toFixed(4));
  const share = Math.sqrt(LEGS_WITH_ARMS);
  return {
    height: near(around(...means.height), 1, 2.1),
    girth: near(means.girth[0] + means.girth[1] * girth, 0.76, 1.48),
    legs: near(means.legs + DEVIATION.legs * along(limbs, share), 0.86, 1.14),
    arms: near(means.arms + DEVIATION.arms * along(limbs, share), 0.86, 1.14),
    shoulders: near(means.shoulders + DEVIATION.shoulders * along(girth, WIDTH_WITH_GIRTH), 0.81, 1.24),
    hips: near(means.hips + DEVIATION.hips * along(girth, WIDTH_WITH_GIRTH), 0.81, 1.29),
    head: near(around(means.head, DEVIATION.head), 0.87, 1.48),
    shins: near(around(1, DEVIATION.shins), 0.86, 1.14),
    foreArms: near(around(1, DEVIATION.foreArms), 0.86, 1.14),
  };
}

/** Children have shorter legs and bigger heads for their height. */
function child(height: number): Means {
  const grown = Math.min(1, Math.max(0, (height - 1.1) / 0.5));
  return {
    height: [height, 0],
    girth: [0.92, 0.06],
    legs: 0.95 + 0.04 * grown,
    arms: 0.97 + 0.02 * grown,
    shoulders: 0.97,
    hips: 0.93,
    head: 1.32 - 0.26 * grown,
  };
}
