/**
 * Symmetric positive definite system with a narrow band, for least squares over a whole take: every
 * residual touches only unknowns of a few frames that follow each other. Lower band, row by row.
 */
export class BandedSystem {
  private readonly matrix: Float64Array;
  readonly right: Float64Array;

  /** @param size unknowns. @param band entries left of the diagonal, the diagonal included. */
  constructor(
    readonly size: number,
    readonly band: number,
  ) {
    this.matrix = new Float64Array(size * band);
    this.right = new Float64Array(size);
  }

  clear(): void {
    this.matrix.fill(0);
    this.right.fill(0);
  }

  /**
   * Adds weight · (Σ coefficient·x − value)² to the sum that is made least.
   * @param indices rising unknowns, the first `count` of the array; the last less than `band` after the first.
   */
  add(indices: Int32Array, coefficients: Float64Array, count: number, value: number, weight: number): void {
    const { matrix, right, band } = this;
    for (let i = 0; i < count; i++) {
      const row = indices[i];
      const c = coefficients[i] * weight;
      if (c === 0) continue;
      right[row] += c * value;
      const base = row * band + band - 1 - row;
      for (let k = 0; k <= i; k++) matrix[base + indices[k]] += c * coefficients[k];
    }
  }

  /** Adds to the diagonal: what keeps unknowns near zero. */
  damp(index: number, weight: number): void {
    this.matrix[index * this.band + this.band - 1] += weight;
  }

  /**
   * Solves in place by Cholesky's method; the matrix is used up.
   * @returns the unknowns, or null when the matrix isn't positive definite.
   */
  solve(): Float64Array | null {
    const { matrix, right, size, band } = this;
    const last = band - 1;
    for (let i = 0; i < size; i++) {
      const rowBase = i * band + last - i;
      const first = Math.max(0, i - last);
      for (let j = first; j <= i; j++) {
        const columnBase = j * band + last - j;
        // Four sums side by side: the additions need not wait for each other.
        let k = first;
        let s0 = 0;
        let s1 = 0;
        let s2 = 0;
        let s3 = 0;
        for (; k + 3 < j; k += 4) {
          s0 += matrix[rowBase + k] * matrix[columnBase + k];
          s1 += matrix[rowBase + k + 1] * matrix[columnBase + k + 1];
          s2 += matrix[rowBase + k + 2] * matrix[columnBase + k + 2];
          s3 += matrix[rowBase + k + 3] * matrix[columnBase + k + 3];
        }
        for (; k < j; k++) s0 += matrix[rowBase + k] * matrix[columnBase + k];
        const sum = matrix[rowBase + j] - (s0 + s1 + s2 + s3);
        if (j < i) matrix[rowBase + j] = sum / matrix[columnBase + j];
        else {
          if (!(sum > 0)) return null;
          matrix[rowBase + i] = Math.sqrt(sum);
        }
      }
    }
    for (let i = 0; i < size; i++) {
      const base = i * band + last - i;
      let sum = right[i];
      for (let k = Math.max(0, i - last); k < i; k++) sum -= matrix[base + k] * right[k];
      right[i] = sum / matrix[base + i];
    }
    for (let i = size - 1; i >= 0; i--) {
      right[i] /= matrix[i * band + last];
      const base = i * band + last - i;
      for (let k = Math.max(0, i - last); k < i; k++) right[k] -= matrix[base + k] * right[i];
    }
    return right;
  }
}
