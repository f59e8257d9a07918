/**
 * A small network: values that were brought to mean 0 and deviation 1 go straight to the outputs and by one layer of hyperbolic tangents
 * (D. Rumelhart, G. Hinton and R. Williams, "Learning representations by back-propagating errors", 1986). `./run train` writes them.
 */
export interface SmallNet {
  /** Mean and deviation of each input. */
  readonly means: readonly number[];
  readonly spreads: readonly number[];
  /** hidden × inputs, and what is added: hidden. */
  readonly inner: readonly number[];
  readonly innerBias: readonly number[];
  /** outputs × hidden, outputs × inputs, and what is added: outputs. */
  readonly outer: readonly number[];
  readonly direct: readonly number[];
  readonly bias: readonly number[];
}

/** Deviations beyond which an input counts no further: what lies outside all that was learned from is not gone on with. */
const FARTHEST = 4;

/** Runs a small network. @param inputs as many as it has means. @param out as many as it has biases; filled and given back. */
export function runSmallNet(net: SmallNet, inputs: ArrayLike<number>, out: Float64Array): Float64Array {
  const count = net.means.length;
  const hidden = net.innerBias.length;
  const scaled = new Float64Array(count);
  for (let i = 0; i < count; i++)
    scaled[i] = Math.min(FARTHEST, Math.max(-FARTHEST, (inputs[i] - net.means[i]) / net.spreads[i]));
  const inner = new Float64Array(hidden);
  for (let h = 0; h < hidden; h++) {
    let sum = net.innerBias[h];
    for (let i = 0; i < count; i++) sum += net.inner[h * count + i] * scaled[i];
    inner[h] = Math.tanh(sum);
  }
  for (let o = 0; o < out.length; o++) {
    let sum = net.bias[o];
    for (let h = 0; h < hidden; h++) sum += net.outer[o * hidden + h] * inner[h];
    for (let i = 0; i < count; i++) sum += net.direct[o * count + i] * scaled[i];
    out[o] = sum;
  }
  return out;
}
