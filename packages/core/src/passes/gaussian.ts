import { normaliseTurn } from '../motion/flat-turns';

/**
 * Zero-phase Gaussian smoothing of interleaved columns, ends held.
 * @param sigma in samples; 0 leaves the values as they are.
 * @param width values of one sample.
 */
export function gaussianColumns(values: Float32Array, width: number, sigma: number): Float32Array {
  const out = values.slice();
  if (!(sigma > 0.05)) return out;
  const count = values.length / width;
  const radius = Math.ceil(sigma * 3);
  const kernel = Float64Array.from({ length: 2 * radius + 1 }, (_, i) => Math.exp(-0.5 * ((i - radius) / sigma) ** 2));
  const total = kernel.reduce((sum, value) => sum + value, 0);
  for (let k = 0; k < kernel.length; k++) kernel[k] /= total;
  for (let i = 0; i < count; i++) {
    // Only near the ends do samples have to be held.
    const inside = i >= radius && i + radius < count;
    for (let c = 0; c < width; c++) {
      let sum = 0;
      if (inside)
        for (let k = 0, at = (i - radius) * width + c; k <= 2 * radius; k++, at += width) sum += kernel[k] * values[at];
      else
        for (let k = -radius; k <= radius; k++)
          sum += kernel[k + radius] * values[Math.min(count - 1, Math.max(0, i + k)) * width + c];
      out[i * width + c] = sum;
    }
  }
  return out;
}

/** Brings interleaved quaternions back to length one. Changes the values in place. */
export function normaliseQuaternions(values: Float32Array): Float32Array {
  for (let i = 0; i < values.length; i += 4) {
    normaliseTurn(values, i);
  }
  return values;
}
