/** How two series go together (K. Pearson, 1895), −1 … 1; NaN where one of them never changes. */
export function correlation(a: ArrayLike<number>, b: ArrayLike<number>): number {
  const count = Math.min(a.length, b.length);
  let [meanA, meanB] = [0, 0];
  for (let i = 0; i < count; i++) {
    meanA += a[i] / count;
    meanB += b[i] / count;
  }
  let [both, ownA, ownB] = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    both += (a[i] - meanA) * (b[i] - meanB);
    ownA += (a[i] - meanA) ** 2;
    ownB += (b[i] - meanB) ** 2;
  }
  return ownA > 0 && ownB > 0 ? both / Math.sqrt(ownA * ownB) : NaN;
}
