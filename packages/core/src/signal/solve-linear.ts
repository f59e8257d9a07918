/** Solves a small system by elimination with the largest pivot of each column. */
export const solveLinear = (matrix: readonly (readonly number[])[], right: readonly number[]): number[] =>
  eliminated(
    matrix,
    right.map((value) => [value]),
  ).map(([value]) => value);

/** The inverse of a small matrix, in the same way. */
export const inverted = (matrix: readonly (readonly number[])[]): number[][] =>
  eliminated(
    matrix,
    matrix.map((_, i) => matrix.map((__, k) => (i === k ? 1 : 0))),
  );

/** Solves for several right sides at once. @param right a row of them for each row of the matrix. */
function eliminated(matrix: readonly (readonly number[])[], right: readonly (readonly number[])[]): number[][] {
  const n = matrix.length;
  const rows = matrix.map((row, i) => [...row, ...right[i]]);
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let i = column + 1; i < n; i++) if (Math.abs(rows[i][column]) > Math.abs(rows[pivot][column])) pivot = i;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    for (let i = 0; i < n; i++) {
      if (i === column || rows[column][column] === 0) continue;
      const factor = rows[i][column] / rows[column][column];
      for (let k = column; k < rows[i].length; k++) rows[i][k] -= factor * rows[column][k];
    }
  }
  return rows.map((row, i) => row.slice(n).map((value) => (row[i] === 0 ? 0 : value / row[i])));
}
