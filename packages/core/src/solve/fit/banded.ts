/**
 * Symmetric positive definite system for least squares over a whole take: every residual touches only
 * unknowns of a few frames that follow each other. Lower triangle, row by row; each row begins with the
 * first unknown of the earliest frame that it can have to do with, and what lies left of it stays zero
 * while the matrix is factored (its envelope; George and Liu 1981, chapter 4).
 */
export class BandedSystem {
  private readonly matrix: Float64Array;
  readonly right: Float64Array;
  readonly size: number;
  /** Entries kept of each row, the diagonal being the last: one more than needed, for the pairs of rows. */
  private readonly band: number;
  /** Where each row begins. */
  private readonly starts: Int32Array;

  /**
   * @param frames how many. @param width unknowns of each.
   * @param reach frames one after another that a residual can touch.
   */
  constructor(frames: number, width: number, reach: number) {
    this.size = frames * width;
    this.band = reach * width + 1;
    this.matrix = new Float64Array(this.size * this.band);
    this.right = new Float64Array(this.size);
    this.starts = Int32Array.from({ length: this.size }, (_, row) =>
      Math.max(0, (Math.floor(row / width) - reach + 1) * width),
    );
  }

  clear(): void {
    this.matrix.fill(0);
    this.right.fill(0);
  }

  /**
   * Adds weight · (Σ coefficient·x − value)² to the sum that is made least.
   * @param indices rising unknowns, the first `count` of the array, of `reach` frames at most.
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

  /**
   * Adds eᵀ·W·e for a residual of three parts, e = Σ coefficients·x − values.
   * @param indices as for `add`. @param coefficients count × 3.
   * @param w the symmetric weight: xx, xy, xz, yy, yz, zz.
   */
  addVector(
    indices: Int32Array,
    coefficients: Float64Array,
    count: number,
    values: Float64Array,
    w: Float64Array,
  ): void {
    const { matrix, right, band } = this;
    const [xx, xy, xz, yy, yz, zz] = w;
    const [x, y, z] = values;
    for (let i = 0; i < count; i++) {
      const row = indices[i];
      const cx = coefficients[i * 3];
      const cy = coefficients[i * 3 + 1];
      const cz = coefficients[i * 3 + 2];
      const a = cx * xx + cy * xy + cz * xz;
      const b = cx * xy + cy * yy + cz * yz;
      const c = cx * xz + cy * yz + cz * zz;
      right[row] += a * x + b * y + c * z;
      const base = row * band + band - 1 - row;
      for (let k = 0; k <= i; k++)
        matrix[base + indices[k]] +=
          a * coefficients[k * 3] + b * coefficients[k * 3 + 1] + c * coefficients[k * 3 + 2];
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
    const { matrix, right, size, band, starts } = this;
    const last = band - 1;
    let row = 0;
    for (; row + 1 < size; row += 2) if (!this.factorPair(row)) return null;
    if (row < size && !this.finishRow(row, starts[row], starts[row])) return null;
    for (let i = 0; i < size; i++) {
      const base = i * band + last - i;
      let sum = right[i];
      for (let k = starts[i]; k < i; k++) sum -= matrix[base + k] * right[k];
      right[i] = sum / matrix[base + i];
    }
    for (let i = size - 1; i >= 0; i--) {
      right[i] /= matrix[i * band + last];
      const base = i * band + last - i;
      for (let k = starts[i]; k < i; k++) right[k] -= matrix[base + k] * right[i];
    }
    return right;
  }

  /**
   * Factors rows i and i + 1 together, four columns at a time: eight sums side by side share what they read, which is
   * what the time goes into. @returns false when the matrix isn't positive definite.
   */
  private factorPair(i: number): boolean {
    const { matrix, band } = this;
    const last = band - 1;
    // Where the lower row begins later, it is zero up to there.
    const start = this.starts[i];
    const a = i * band + last - i;
    const b = a + last;
    let j = start;
    for (; j + 3 < i; j += 4) {
      const c0 = j * band + last - j;
      const c1 = c0 + last;
      const c2 = c1 + last;
      const c3 = c2 + last;
      let a0 = matrix[a + j];
      let a1 = matrix[a + j + 1];
      let a2 = matrix[a + j + 2];
      let a3 = matrix[a + j + 3];
      let b0 = matrix[b + j];
      let b1 = matrix[b + j + 1];
      let b2 = matrix[b + j + 2];
      let b3 = matrix[b + j + 3];
      for (let k = start; k < j; k++) {
        const x = matrix[a + k];
        const y = matrix[b + k];
        const l0 = matrix[c0 + k];
        const l1 = matrix[c1 + k];
        const l2 = matrix[c2 + k];
        const l3 = matrix[c3 + k];
        a0 -= x * l0;
        b0 -= y * l0;
        a1 -= x * l1;
        b1 -= y * l1;
        a2 -= x * l2;
        b2 -= y * l2;
        a3 -= x * l3;
        b3 -= y * l3;
      }
      // What the four columns have to do with each other.
      const d0 = matrix[c0 + j];
      a0 /= d0;
      b0 /= d0;
      const l10 = matrix[c1 + j];
      const d1 = matrix[c1 + j + 1];
      a1 = (a1 - a0 * l10) / d1;
      b1 = (b1 - b0 * l10) / d1;
      const l20 = matrix[c2 + j];
      const l21 = matrix[c2 + j + 1];
      const d2 = matrix[c2 + j + 2];
      a2 = (a2 - a0 * l20 - a1 * l21) / d2;
      b2 = (b2 - b0 * l20 - b1 * l21) / d2;
      const l30 = matrix[c3 + j];
      const l31 = matrix[c3 + j + 1];
      const l32 = matrix[c3 + j + 2];
      const d3 = matrix[c3 + j + 3];
      matrix[a + j] = a0;
      matrix[a + j + 1] = a1;
      matrix[a + j + 2] = a2;
      matrix[a + j + 3] = (a3 - a0 * l30 - a1 * l31 - a2 * l32) / d3;
      matrix[b + j] = b0;
      matrix[b + j + 1] = b1;
      matrix[b + j + 2] = b2;
      matrix[b + j + 3] = (b3 - b0 * l30 - b1 * l31 - b2 * l32) / d3;
    }
    return this.finishRow(i, start, j) && this.finishRow(i + 1, start, j);
  }

  /** The rest of a row that begins at `first`, from a column on, the diagonal included. @returns false when the matrix isn't positive definite. */
  private finishRow(i: number, first: number, from: number): boolean {
    const { matrix, band } = this;
    const last = band - 1;
    const a = i * band + last - i;
    for (let j = from; j <= i; j++) {
      const c = j * band + last - j;
      let sum = matrix[a + j];
      for (let k = first; k < j; k++) sum -= matrix[a + k] * matrix[c + k];
      if (j < i) matrix[a + j] = sum / matrix[c + j];
      else if (!(sum > 0)) return false;
      else matrix[a + i] = Math.sqrt(sum);
    }
    return true;
  }
}
