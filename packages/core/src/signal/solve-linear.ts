/** Solves a small system by elimination with the largest pivot of each column. */
export function solveLinear(matrix: readonly (readonly number[])[], right: readonly number[]): number[] {
  const n = right.length;
  const rows = matrix.map((row, i) => [...row, right[i]]);
  for (let column = 0; column < n; column++) {
    let pivot = column;
    for (let i = column + 1; i < n; i++) if (Math.abs(rows[i][column]) > Math.abs(rows[pivot][column])) pivot = i;
    [rows[column], rows[pivot]] = [rows[pivot], rows[column]];
    for (let i = 0; i < n; i++) {
      if (i === column || rows[column][column] === 0) continue;
      const factor = rows[i][column] / rows[column][column];
      for (let k = column; k <= n; k++) rows[i][k] -= factor * rows[column][k];
    }
  }
  return rows.map((row, i) => (row[i] === 0 ? 0 : row[n] / row[i]));
}
