/** Coefficients of a third difference, and how far it reaches beyond its first sample. */
const THIRD = [-1, 3, -3, 1];
const REACH = 3;

/**
 * Smooths interleaved columns by how little their third differences should be (E. T. Whittaker, "On a new method of
 * graduation", 1923; P. H. C. Eilers, "A perfect smoother", 2003): zero phase, parabolas stay as they are, and what
 * is faster than the cut falls off with the sixth power of its frequency, so that slower swings keep their height.
 * @param width values of one sample.
 * @param cuts for each sample the frequency that is halved there, radians a sample, above 0; half a turn or more
 * leaves nearly all as it is.
 */
export function whittakerColumns(values: Float32Array, width: number, cuts: Float64Array): Float32Array {
  const out = values.slice();
  const count = values.length / width;
  if (count <= REACH) return out;
  const factor = factorOf(cuts, count);
  const column = new Float64Array(count);
  for (let c = 0; c < width; c++) {
    for (let i = 0; i < count; i++) {
      let sum = values[i * width + c];
      for (let k = 1; k <= Math.min(REACH, i); k++) sum -= factor[k][i] * column[i - k];
      column[i] = sum;
    }
    for (let i = count - 1; i >= 0; i--) {
      let sum = column[i] / factor[0][i];
      for (let k = 1; k <= Math.min(REACH, count - 1 - i); k++) sum -= factor[k][i + k] * column[i + k];
      column[i] = sum;
      out[i * width + c] = sum;
    }
  }
  return out;
}

/** The factor L·D·Lᵀ of the smoother's system: row 0 has D, row k of sample i the element of L at (i, i − k). */
function factorOf(cuts: Float64Array, count: number): Float64Array[] {
  const system = Array.from({ length: REACH + 1 }, (_, k) => new Float64Array(count).fill(k === 0 ? 1 : 0));
  for (let first = 0; first + REACH < count; first++) {
    const weight = (2 * Math.sin(Math.min(Math.PI, (cuts[first + 1] + cuts[first + 2]) / 2) / 2)) ** -6;
    for (let i = 0; i <= REACH; i++)
      for (let k = 0; k <= i; k++) system[k][first + i] += weight * THIRD[i] * THIRD[i - k];
  }
  // In place: the rows that a sample needs are those of samples before it, which are factored by then.
  for (let i = 0; i < count; i++)
    for (let k = Math.min(REACH, i); k >= 0; k--) {
      let sum = system[k][i];
      for (let m = k + 1; m <= Math.min(REACH, i); m++) sum -= system[m][i] * system[m - k][i - k] * system[0][i - m];
      system[k][i] = k === 0 ? sum : sum / system[0][i - k];
    }
  return system;
}
