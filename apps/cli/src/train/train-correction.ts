import { alignPoints, applyAlignment, meanDistance } from '@merry-shadow/core/measure/align';
import {
  correctionOf,
  INPUTS,
  LEAK,
  OUTPUTS,
  OUTPUT_SCALE,
  SLACK,
  type Correction,
} from '@merry-shadow/core/solve/network-correction';
import { chance } from '@merry-shadow/synth/population/chance';
import { mirrored, type Sample } from './samples';

const EPOCHS = 40;
const BATCH = 64;
const RATE = { first: 1e-3, last: 2e-5 };
/** Share of hidden values that are left out at random, noise on inputs (deviations), and how fast weights fade. */
const DROPPED = 0.25;
const NOISE = 0.05;
const FADE = { linear: 0.02, deep: 0.01 };
/** Errors beyond this (tenths of a body's height) count linearly. */
const HUBER = 1;

/** A layer while it is learned, with the running means of its slopes (D. Kingma and J. Ba, "Adam", 2015). */
interface Learned {
  rows: number;
  width: number;
  weights: Float32Array;
  slopes: Float32Array;
  mean: Float32Array;
  square: Float32Array;
}

/**
 * Learns a correction: stochastic gradient descent on Huber's loss of the joints' places, with each frame also in a mirror, noise on the inputs, hidden values left
 * out at random (N. Srivastava et al., "Dropout", 2014) and weights that fade.
 * @param hidden sizes of the layers between; none for a linear correction.
 */
export function trainCorrection(samples: readonly Sample[], hidden: readonly number[]): Correction {
  const { next, around, of } = chance(7);
  const all = samples.flatMap((sample) => [sample, mirrored(sample)]);
  const mean = new Float32Array(INPUTS);
  const deviation = new Float32Array(INPUTS);
  for (const { input } of all) input.forEach((value, i) => (mean[i] += value / all.length));
  for (const { input } of all) input.forEach((value, i) => (deviation[i] += (value - mean[i]) ** 2 / all.length));
  deviation.forEach((value, i) => (deviation[i] = Math.sqrt(value)));
  const sizes = [INPUTS, ...hidden, OUTPUTS];
  const layers = sizes.slice(1).map((rows, l): Learned => {
    const width = sizes[l];
    const spread = Math.sqrt((l === sizes.length - 2 ? 0.02 : 2) / width);
    const count = rows * (width + 1);
    return {
      rows,
      width,
      weights: Float32Array.from({ length: count }, (_, i) => (i % (width + 1) === width ? 0 : around(0, spread))),
      slopes: new Float32Array(count),
      mean: new Float32Array(count),
      square: new Float32Array(count),
    };
  });
  const fade = hidden.length > 0 ? FADE.deep : FADE.linear;
  let step = 0;
  for (let epoch = 0; epoch < EPOCHS; epoch++) {
    const rate = RATE.first + (RATE.last - RATE.first) * (epoch / EPOCHS);
    for (let batch = 0; batch < all.length / BATCH; batch++) {
      for (let i = 0; i < BATCH; i++) {
        const { input, points, joints } = of(all);
        const seen = input.map((value, k) => (value - mean[k]) / (deviation[k] + SLACK) + around(0, NOISE));
        const values = forward(layers, seen, next);
        const told = values[values.length - 1];
        back(
          layers,
          values,
          told.map((value, k) => Math.max(-HUBER, Math.min(HUBER, value - (joints[k] - points[k]) / OUTPUT_SCALE))),
        );
      }
      step++;
      for (const layer of layers) descend(layer, rate, fade, step);
    }
  }
  return { mean, deviation, layers: layers.map(({ rows, weights }) => ({ rows, weights })) };
}

/** The values of all layers, hidden ones left out at random. */
function forward(layers: readonly Learned[], input: Float32Array, next: () => number): Float32Array[] {
  const values = [input];
  layers.forEach(({ rows, width, weights }, l) => {
    const from = values[l];
    const last = l === layers.length - 1;
    values.push(
      Float32Array.from({ length: rows }, (_, r) => {
        const base = r * (width + 1);
        let sum = weights[base + width];
        for (let k = 0; k < width; k++) sum += weights[base + k] * from[k];
        if (last) return sum;
        return next() < DROPPED ? 0 : (sum < 0 ? LEAK * sum : sum) / (1 - DROPPED);
      }),
    );
  });
  return values;
}

/** Adds the slopes of all weights for one sample. @param errors of the last layer. */
function back(layers: readonly Learned[], values: readonly Float32Array[], errors: Float32Array): void {
  for (let l = layers.length - 1; l >= 0; l--) {
    const { rows, width, weights, slopes } = layers[l];
    const before = new Float32Array(width);
    for (let r = 0; r < rows; r++) {
      const value = values[l + 1][r];
      const passes = l === layers.length - 1 || value > 0 ? 1 : value < 0 ? LEAK : 0;
      const error = errors[r] * passes;
      if (error === 0) continue;
      const base = r * (width + 1);
      for (let k = 0; k < width; k++) {
        slopes[base + k] += error * values[l][k];
        before[k] += error * weights[base + k];
      }
      slopes[base + width] += error;
    }
    errors = before;
  }
}

function descend({ weights, slopes, mean, square }: Learned, rate: number, fade: number, step: number): void {
  const [sure, surer] = [1 - 0.9 ** step, 1 - 0.999 ** step];
  for (let i = 0; i < weights.length; i++) {
    const slope = slopes[i] / BATCH;
    mean[i] = 0.9 * mean[i] + 0.1 * slope;
    square[i] = 0.999 * square[i] + 0.001 * slope * slope;
    weights[i] -= rate * (mean[i] / sure / (Math.sqrt(square[i] / surer) + 1e-8) + fade * weights[i]);
    slopes[i] = 0;
  }
}

/** PA-MPJPE of corrected points against that of the network's own: the mean of the clips' ratios. */
export function rawAgainst(samples: readonly Sample[], correction: Correction): number {
  const clips = new Map<string, [before: number, after: number]>();
  for (const { clip, input, points, joints } of samples) {
    const off = correctionOf(input, correction);
    const sums = clips.get(clip) ?? [0, 0];
    sums[0] += distance(points, joints);
    sums[1] += distance(
      points.map((value, i) => value + off[i]),
      joints,
    );
    clips.set(clip, sums);
  }
  const ratios = [...clips.values()].map(([before, after]) => after / before);
  return ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
}

function distance(points: Float32Array, joints: Float32Array): number {
  return meanDistance(applyAlignment(alignPoints(points, joints, true), Float64Array.from(points)), joints);
}
