/**
 * The discrete Fourier transform of a power of two complex numbers, in place (radix 2, decimation in time; J. Cooley and J. Tukey, 1965).
 * @param real, imaginary of the same length. @param inverse without the division by the length.
 */
export function transform(real: Float64Array, imaginary: Float64Array, inverse = false): void {
  const size = real.length;
  for (let i = 1, k = 0; i < size; i++) {
    let bit = size >> 1;
    for (; k & bit; bit >>= 1) k ^= bit;
    k ^= bit;
    if (i >= k) continue;
    [real[i], real[k]] = [real[k], real[i]];
    [imaginary[i], imaginary[k]] = [imaginary[k], imaginary[i]];
  }
  for (let length = 2; length <= size; length <<= 1) {
    const angle = ((inverse ? 2 : -2) * Math.PI) / length;
    const half = length >> 1;
    const [cosines, sines] = [new Float64Array(half), new Float64Array(half)];
    for (let k = 0; k < half; k++) {
      cosines[k] = Math.cos(angle * k);
      sines[k] = Math.sin(angle * k);
    }
    for (let start = 0; start < size; start += length)
      for (let k = 0; k < half; k++) {
        const [a, b] = [start + k, start + k + half];
        const re = real[b] * cosines[k] - imaginary[b] * sines[k];
        const im = real[b] * sines[k] + imaginary[b] * cosines[k];
        real[b] = real[a] - re;
        imaginary[b] = imaginary[a] - im;
        real[a] += re;
        imaginary[a] += im;
      }
  }
}

/**
 * How well two rows of numbers fit at every shift, by the Fourier transform.
 * @returns for each shift of the second row, from −(its length − 1) on, the sum of products.
 */
export function crossCorrelation(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  const count = a.length + b.length - 1;
  let size = 1;
  while (size < count) size <<= 1;
  const [ar, ai, br, bi] = Array.from({ length: 4 }, () => new Float64Array(size));
  for (let i = 0; i < a.length; i++) ar[i] = a[i];
  // The second row backwards: the product of spectra is then the correlation.
  for (let i = 0; i < b.length; i++) br[i] = b[b.length - 1 - i];
  transform(ar, ai);
  transform(br, bi);
  for (let i = 0; i < size; i++) {
    const re = ar[i] * br[i] - ai[i] * bi[i];
    ai[i] = ar[i] * bi[i] + ai[i] * br[i];
    ar[i] = re;
  }
  transform(ar, ai, true);
  return ar.subarray(0, count).map((value) => value / size);
}
