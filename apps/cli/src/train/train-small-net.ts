import type { SmallNet } from '@merry-shadow/core/learned/small-net';
import { seededRandom } from '@merry-shadow/synth/random';

/** What a small network is to answer for some inputs; NaN where it is not known. */
export interface NetExample {
  inputs: ArrayLike<number>;
  outputs: ArrayLike<number>;
}

export interface NetTraining {
  hidden: number;
  rounds: number;
  /** Deviation of noise on the inputs, in their own deviations: it holds the network to what is alike in all examples. */
  noise: number;
  /** How strongly weights are drawn to nothing. */
  decay: number;
  /** Errors of outputs count no more than this. */
  most: number;
  /** How many such networks are learned, each from another start, and meaned: 1 if left out. */
  nets?: number;
}

const BATCH = 32;
const STEP = 3e-3;
const LEAST_SPREAD = 1e-3;

/**
 * Trains a small network by stochastic gradient descent with moments (D. Kingma and J. Ba, "Adam", 2015) on noisy inputs (C. Bishop,
 * "Training with noise is equivalent to Tikhonov regularization", 1995). The same examples give the same network.
 */
export function trainSmallNet(examples: readonly NetExample[], training: NetTraining): SmallNet {
  return sideBySide(Array.from({ length: training.nets ?? 1 }, (_, i) => trainOne(examples, training, i + 1)));
}

/** Networks that were learned from the same examples side by side in one, which gives their mean (L. Hansen and P. Salamon, "Neural network ensembles", 1990). */
function sideBySide(nets: readonly SmallNet[]): SmallNet {
  const [{ means, spreads, bias }] = nets;
  const mean = (part: 'direct' | 'bias'): number[] =>
    nets[0][part].map((_, i) => nets.reduce((sum, net) => sum + net[part][i] / nets.length, 0));
  return {
    means,
    spreads,
    inner: nets.flatMap(({ inner }) => inner),
    innerBias: nets.flatMap(({ innerBias }) => innerBias),
    outer: bias.flatMap((_, o) =>
      nets.flatMap(({ outer, innerBias: { length } }) =>
        outer.slice(o * length, (o + 1) * length).map((weight) => weight / nets.length),
      ),
    ),
    direct: mean('direct'),
    bias: mean('bias'),
  };
}

/** One network. @param seed of its start, of the order of the examples and of their noise. */
function trainOne(examples: readonly NetExample[], training: NetTraining, seed: number): SmallNet {
  const random = seededRandom(seed);
  const normal = (): number => Math.sqrt(-2 * Math.log(random() + 1e-12)) * Math.cos(2 * Math.PI * random());
  const { hidden, rounds, noise, decay, most } = training;
  const [count, answers] = [examples[0].inputs.length, examples[0].outputs.length];
  const { means, spreads } = momentsOf(examples, count);
  const bias = middles(examples, answers);
  const scaled = examples.map(({ inputs }) => Float64Array.from(inputs, (value, i) => (value - means[i]) / spreads[i]));
  const drawn = (length: number, size: number): Weights => new Weights(length, () => size * normal());
  const inner = drawn(hidden * count, 1 / Math.sqrt(count));
  const outer = drawn(answers * hidden, 0.1 / Math.sqrt(hidden));
  const [innerBias, direct, outerBias] = [hidden, answers * count, answers].map((length) => drawn(length, 0));
  const all = [inner, outer, innerBias, direct, outerBias];
  const input = new Float64Array(count);
  const layer = new Float64Array(hidden);
  const error = new Float64Array(answers);
  const order = examples.map((_, i) => i);
  let steps = 0;
  for (let round = 0; round < rounds; round++) {
    const rate = STEP * Math.min(1, 2 * (1 - round / rounds));
    for (let i = order.length - 1; i > 0; i--) {
      const k = Math.floor(random() * (i + 1));
      [order[i], order[k]] = [order[k], order[i]];
    }
    for (let first = 0; first + BATCH <= order.length; first += BATCH) {
      for (const example of order.slice(first, first + BATCH)) {
        for (let i = 0; i < count; i++) input[i] = scaled[example][i] + noise * normal();
        const { outputs } = examples[example];
        forward();
        for (let o = 0; o < answers; o++) {
          const off = error[o] + bias[o] - outputs[o];
          error[o] = Number.isFinite(off) ? Math.max(-most, Math.min(most, off)) : 0;
        }
        backward();
      }
      steps++;
      for (const weights of all)
        weights.step(rate, BATCH, weights === inner || weights === outer || weights === direct ? decay : 0, steps);
    }
  }
  return {
    means,
    spreads,
    inner: [...inner.values],
    innerBias: [...innerBias.values],
    outer: [...outer.values],
    direct: [...direct.values],
    bias: Array.from(outerBias.values, (value, o) => value + bias[o]),
  };

  function forward(): void {
    for (let h = 0; h < hidden; h++) {
      let sum = innerBias.values[h];
      for (let i = 0; i < count; i++) sum += inner.values[h * count + i] * input[i];
      layer[h] = Math.tanh(sum);
    }
    for (let o = 0; o < answers; o++) {
      let sum = outerBias.values[o];
      for (let h = 0; h < hidden; h++) sum += outer.values[o * hidden + h] * layer[h];
      for (let i = 0; i < count; i++) sum += direct.values[o * count + i] * input[i];
      error[o] = sum;
    }
  }

  function backward(): void {
    for (let o = 0; o < answers; o++) {
      if (error[o] === 0) continue;
      outerBias.slope[o] += error[o];
      for (let h = 0; h < hidden; h++) outer.slope[o * hidden + h] += error[o] * layer[h];
      for (let i = 0; i < count; i++) direct.slope[o * count + i] += error[o] * input[i];
    }
    for (let h = 0; h < hidden; h++) {
      let sum = 0;
      for (let o = 0; o < answers; o++) sum += error[o] * outer.values[o * hidden + h];
      sum *= 1 - layer[h] ** 2;
      innerBias.slope[h] += sum;
      for (let i = 0; i < count; i++) inner.slope[h * count + i] += sum * input[i];
    }
  }
}

/** Weights with their slopes and moments. */
class Weights {
  readonly values: Float64Array;
  readonly slope: Float64Array;
  private readonly first: Float64Array;
  private readonly second: Float64Array;

  constructor(length: number, draw: () => number) {
    this.values = Float64Array.from({ length }, draw);
    this.slope = new Float64Array(length);
    this.first = new Float64Array(length);
    this.second = new Float64Array(length);
  }

  /** One step down the slope of a batch. */
  step(rate: number, batch: number, decay: number, steps: number): void {
    const [one, two] = [1 - 0.9 ** steps, 1 - 0.999 ** steps];
    for (let i = 0; i < this.values.length; i++) {
      const slope = this.slope[i] / batch + decay * this.values[i];
      this.first[i] += 0.1 * (slope - this.first[i]);
      this.second[i] += 0.001 * (slope * slope - this.second[i]);
      this.values[i] -= (rate * (this.first[i] / one)) / (Math.sqrt(this.second[i] / two) + 1e-8);
      this.slope[i] = 0;
    }
  }
}

function momentsOf(examples: readonly NetExample[], count: number): { means: number[]; spreads: number[] } {
  const means = new Array<number>(count).fill(0);
  const squares = new Array<number>(count).fill(0);
  for (const { inputs } of examples) for (let i = 0; i < count; i++) means[i] += inputs[i] / examples.length;
  for (const { inputs } of examples)
    for (let i = 0; i < count; i++) squares[i] += (inputs[i] - means[i]) ** 2 / examples.length;
  return { means, spreads: squares.map((square) => Math.sqrt(square) + LEAST_SPREAD) };
}

/** Means of the outputs over the examples that know them. */
function middles(examples: readonly NetExample[], answers: number): number[] {
  return Array.from({ length: answers }, (_, o) => {
    const known = examples.flatMap(({ outputs }) => (Number.isFinite(outputs[o]) ? [outputs[o]] : []));
    return known.length > 0 ? known.reduce((sum, value) => sum + value, 0) / known.length : 0;
  });
}
