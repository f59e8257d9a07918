/**
 * A map from numbers to numbers that was learned from samples: a linear one, and Gaussian bells about some of the samples for what is not
 * linear (radial basis functions; D. Broomhead and D. Lowe, "Multivariable functional interpolation and adaptive networks", 1988).
 */
export interface LearnedMap {
  /** Of each input: what is taken off, and what it is then divided by. */
  mean: Float32Array;
  scale: Float32Array;
  /** A row of weights for each output, the last of a row added. */
  linear: readonly Float32Array[];
  /** Places of the bells, in scaled inputs, and for each bell how much it adds to each output; none for a linear map. */
  centres: readonly Float32Array[];
  bells: readonly Float32Array[];
  /** How narrow the bells are: exp(-narrow · mean square of the differences). */
  narrow: number;
}

/** Inputs brought to the size of one. */
export const scaled = ({ mean, scale }: Pick<LearnedMap, 'mean' | 'scale'>, input: Float32Array): Float32Array =>
  input.map((value, i) => (value - mean[i]) / scale[i]);

/** How near scaled inputs are to the middle of a bell: 1 there, 0 far away. */
export function bellAt(input: ArrayLike<number>, centre: ArrayLike<number>, narrow: number): number {
  let square = 0;
  for (let i = 0; i < centre.length; i++) {
    const off = input[i] - centre[i];
    square += off * off;
  }
  return Math.exp((-narrow * square) / centre.length);
}

/** What a learned map gives for some inputs. */
export function mapped(map: LearnedMap, input: Float32Array): Float32Array {
  const x = scaled(map, input);
  const out = Float32Array.from(map.linear, (weights) => {
    let sum = weights[x.length];
    for (let i = 0; i < x.length; i++) sum += weights[i] * x[i];
    return sum;
  });
  map.centres.forEach((centre, c) => {
    const near = bellAt(x, centre, map.narrow);
    for (let k = 0; k < out.length; k++) out[k] += near * map.bells[c][k];
  });
  return out;
}
