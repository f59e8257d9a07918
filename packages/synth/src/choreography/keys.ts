/**
 * Values between keys.
 *
 * Monotone cubic interpolation (Fritsch and Carlson 1980): runs through every key, never
 * overshoots, and stays flat between equal keys; then a short Gaussian takes the corners off.
 */
export function interpolateKeys(times: readonly number[], values: readonly number[], t: number): number {
  const n = times.length;
  if (n === 0) return 0;
  if (t <= times[0]) return values[0];
  if (t >= times[n - 1]) return values[n - 1];
  let i = 0;
  while (t > times[i + 1]) i++;
  const h = times[i + 1] - times[i];
  const slope = (values[i + 1] - values[i]) / h;
  const s = (t - times[i]) / h;
  const m0 = tangent(times, values, i) * h;
  const m1 = tangent(times, values, i + 1) * h;
  const s2 = s * s;
  const s3 = s2 * s;
  if (slope === 0) return values[i];
  return (
    (2 * s3 - 3 * s2 + 1) * values[i] + (s3 - 2 * s2 + s) * m0 + (-2 * s3 + 3 * s2) * values[i + 1] + (s3 - s2) * m1
  );
}

function tangent(times: readonly number[], values: readonly number[], i: number): number {
  if (i === 0 || i === times.length - 1) return 0;
  const before = (values[i] - values[i - 1]) / (times[i] - times[i - 1]);
  const after = (values[i + 1] - values[i]) / (times[i + 1] - times[i]);
  if (before * after <= 0) return 0;
  return (2 * before * after) / (before + after);
}

/** Gaussian smoothing of a sampled curve with its ends held. @param sigma in samples. */
export function smoothSamples(values: Float64Array, sigma: number): Float64Array {
  const radius = Math.ceil(sigma * 3);
  if (radius < 1) return values.slice();
  const kernel = Array.from({ length: 2 * radius + 1 }, (_, i) => Math.exp(-0.5 * ((i - radius) / sigma) ** 2));
  const total = kernel.reduce((a, b) => a + b, 0);
  const out = new Float64Array(values.length);
  for (let i = 0; i < values.length; i++) {
    let sum = 0;
    for (let k = -radius; k <= radius; k++)
      sum += kernel[k + radius] * values[Math.min(values.length - 1, Math.max(0, i + k))];
    out[i] = sum / total;
  }
  return out;
}

/**
 * Samples one number of keyed records for every frame.
 * @param fallback the value when there are no keys.
 */
export function sampleTrack<K extends { at: number }>(
  keys: readonly K[],
  pick: (key: K) => number,
  frames: number,
  rate: number,
  fallback: number,
): Float64Array {
  const sorted = [...keys].sort((a, b) => a.at - b.at);
  const times = sorted.map((key) => key.at);
  const values = sorted.map(pick);
  const raw = Float64Array.from({ length: frames }, (_, f) =>
    sorted.length ? interpolateKeys(times, values, f / rate) : fallback,
  );
  return smoothSamples(raw, 0.035 * rate);
}
