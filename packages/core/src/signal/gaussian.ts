import { normaliseTurn } from '../motion/flat-turns';

/**
 * Zero-phase Gaussian smoothing of interleaved columns. Beyond the ends the columns are taken to go on as they came
 * (mirrored through the end point), so that what travels at an end is not bent there.
 * @param sigma in samples; 0 leaves the values as they are.
 * @param width values of one sample.
 */
export function gaussianColumns(values: Float32Array, width: number, sigma: number): Float32Array {
  const out = values.slice();
  if (!(sigma > 0.05)) return out;
  const count = values.length / width;
  const radius = gaussianReach(sigma);
  const kernel = Float64Array.from({ length: 2 * radius + 1 }, (_, i) => Math.exp(-0.5 * ((i - radius) / sigma) ** 2));
  const total = kernel.reduce((sum, value) => sum + value, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k] /= total;
  for (let i = 0; i < count; i++) {
    const inside = i >= radius && i + radius < count;
    for (let c = 0; c < width; c++) {
      let sum = 0;
      if (inside)
        for (let k = 0, at = (i - radius) * width + c; k <= 2 * radius; k++, at += width) sum += kernel[k] * values[at];
      else for (let k = 0; k <= 2 * radius; k++) sum += kernel[k] * beyond(values, width, count, i + k - radius, c);
      out[i * width + c] = sum;
    }
  }
  return out;
}

/** Samples to either side that a smoothed one depends on: the kernel is cut at three standard deviations. @param sigma in samples. */
export const gaussianReach = (sigma: number): number => (sigma > 0.05 ? Math.ceil(sigma * 3) : 0);

/** The value of a sample that may lie beyond the ends. */
function beyond(values: Float32Array, width: number, count: number, i: number, c: number): number {
  const last = count - 1;
  if (i < 0) return 2 * values[c] - values[Math.min(last, -i) * width + c];
  if (i > last) return 2 * values[last * width + c] - values[Math.max(0, 2 * last - i) * width + c];
  return values[i * width + c];
}

/** Brings interleaved quaternions back to length one. Changes the values in place. */
export function normaliseQuaternions(values: Float32Array): Float32Array {
  for (let i = 0; i < values.length; i += 4) {
    normaliseTurn(values, i);
  }
  return values;
}
