import { turnRows } from './turn-rows';

/**
 * Alignment of point sets: the rotation, scale and shift that bring one set closest to another in
 * the least-squares sense (B. Horn, "Closed-form solution of absolute orientation using unit
 * quaternions", 1987).
 */
export interface Alignment {
  scale: number;
  /** 9 numbers, rows. */
  rotation: number[];
  shift: [number, number, number];
}

/**
 * @param from, to points × 3 with the same count.
 * @param withScale false for a rigid alignment.
 * @param weights one for each point; all alike if left out.
 */
export function alignPoints(
  from: ArrayLike<number>,
  to: ArrayLike<number>,
  withScale: boolean,
  weights?: readonly number[],
): Alignment {
  const count = from.length / 3;
  const total = weights ? weights.reduce((sum, value) => sum + value, 0) : count;
  const share = (i: number): number => (weights ? weights[i] : 1) / total;
  const a = [0, 0, 0];
  const b = [0, 0, 0];
  for (let i = 0; i < count; i++) {
    for (let k = 0; k < 3; k++) {
      a[k] += from[i * 3 + k] * share(i);
      b[k] += to[i * 3 + k] * share(i);
    }
  }
  const s = new Float64Array(9);
  let fromSize = 0;
  for (let i = 0; i < count; i++) {
    const w = share(i);
    for (let r = 0; r < 3; r++) {
      const x = from[i * 3 + r] - a[r];
      fromSize += w * x * x;
      for (let c = 0; c < 3; c++) s[r * 3 + c] += w * x * (to[i * 3 + c] - b[c]);
    }
  }
  const [xx, xy, xz, yx, yy, yz, zx, zy, zz] = s;
  const q = largestEigenvector([
    [xx + yy + zz, yz - zy, zx - xz, xy - yx],
    [yz - zy, xx - yy - zz, xy + yx, zx + xz],
    [zx - xz, xy + yx, -xx + yy - zz, yz + zy],
    [xy - yx, zx + xz, yz + zy, -xx - yy + zz],
  ]);
  const [w, x, y, z] = q;
  const rotation = turnRows(x, y, z, w);
  let scale = 1;
  if (withScale && fromSize > 0) {
    let dot = 0;
    for (let r = 0; r < 3; r++) for (let c = 0; c < 3; c++) dot += rotation[c * 3 + r] * s[r * 3 + c];
    scale = dot / fromSize;
  }
  const shift = [0, 1, 2].map(
    (r) => b[r] - scale * (rotation[r * 3] * a[0] + rotation[r * 3 + 1] * a[1] + rotation[r * 3 + 2] * a[2]),
  ) as Alignment['shift'];
  return { scale, rotation, shift };
}

/** Applies an alignment to points × 3. */
export function applyAlignment({ scale, rotation, shift }: Alignment, points: ArrayLike<number>): Float64Array {
  const out = new Float64Array(points.length);
  for (let i = 0; i < points.length; i += 3) {
    for (let r = 0; r < 3; r++)
      out[i + r] =
        scale *
          (rotation[r * 3] * points[i] + rotation[r * 3 + 1] * points[i + 1] + rotation[r * 3 + 2] * points[i + 2]) +
        shift[r];
  }
  return out;
}

/** Mean distance between matching points, in the points' unit. */
export function meanDistance(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < a.length; i += 3) sum += Math.hypot(a[i] - b[i], a[i + 1] - b[i + 1], a[i + 2] - b[i + 2]);
  return sum / (a.length / 3);
}

/** Eigenvector of the largest eigenvalue of a symmetric 4 × 4 matrix, by cyclic Jacobi rotations. */
function largestEigenvector(matrix: number[][]): number[] {
  const a = matrix.map((row) => [...row]);
  const v: number[][] = [0, 1, 2, 3].map((i) => [0, 1, 2, 3].map((k) => (i === k ? 1 : 0)));
  for (let sweep = 0; sweep < 30; sweep++) {
    let off = 0;
    for (let p = 0; p < 3; p++) {
      for (let q = p + 1; q < 4; q++) {
        off += Math.abs(a[p][q]);
        if (Math.abs(a[p][q]) < 1e-300) continue;
        const theta = (a[q][q] - a[p][p]) / (2 * a[p][q]);
        const t = (theta >= 0 ? 1 : -1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
        const c = 1 / Math.sqrt(t * t + 1);
        const s = t * c;
        for (let k = 0; k < 4; k++) [a[k][p], a[k][q]] = [c * a[k][p] - s * a[k][q], s * a[k][p] + c * a[k][q]];
        for (let k = 0; k < 4; k++) [a[p][k], a[q][k]] = [c * a[p][k] - s * a[q][k], s * a[p][k] + c * a[q][k]];
        for (let k = 0; k < 4; k++) [v[k][p], v[k][q]] = [c * v[k][p] - s * v[k][q], s * v[k][p] + c * v[k][q]];
      }
    }
    if (off < 1e-15) break;
  }
  const best = [0, 1, 2, 3].reduce((most, i) => (a[i][i] > a[most][most] ? i : most), 0);
  return v.map((row) => row[best]);
}
