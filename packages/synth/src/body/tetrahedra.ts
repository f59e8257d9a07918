import { vertexNormals } from './surface';

/** A field on a grid: inside where it is positive. */
export interface Field {
  values: Float32Array;
  size: readonly [number, number, number];
  /** Place of the first point, and the edge of a cell, metres. */
  low: readonly number[];
  cell: number;
}

/** Six tetrahedra about the diagonal from corner 0 to corner 7 of a cell; corner bits are x, y, z. */
const TETRAHEDRA = [
  [0, 1, 3, 7],
  [0, 3, 2, 7],
  [0, 2, 6, 7],
  [0, 6, 4, 7],
  [0, 4, 5, 7],
  [0, 5, 1, 7],
] as const;

/**
 * The surface where a field is zero, by marching tetrahedra (A. Doi and A. Koide, 1991). Normals look outwards.
 * @returns vertices × 3 in metres, their normals, and triangles.
 */
export function surfaceOf({ values, size, low, cell }: Field): {
  positions: Float32Array;
  normals: Float32Array;
  triangles: number[];
} {
  const [nx, ny, nz] = size;
  const step = [1, nx, nx * ny];
  const offsets = Array.from({ length: 8 }, (_, c) => (c & 1) + ((c >> 1) & 1) * step[1] + (c >> 2) * step[2]);
  const points: number[] = [];
  const triangles: number[] = [];
  const known = new Map<number, number>();
  /** The vertex on the edge between two grid points, one of which lies inside. */
  const between = (a: number, b: number): number => {
    const [first, second] = a < b ? [a, b] : [b, a];
    const key = first * values.length + second;
    const found = known.get(key);
    if (found !== undefined) return found;
    const t = values[first] / (values[first] - values[second]);
    const place = (i: number): number[] => [i % nx, Math.floor(i / nx) % ny, Math.floor(i / step[2])];
    const [p, q] = [place(first), place(second)];
    for (let k = 0; k < 3; k++) points.push(low[k] + (p[k] + (q[k] - p[k]) * t) * cell);
    known.set(key, points.length / 3 - 1);
    return points.length / 3 - 1;
  };
  const add = (a: number, b: number, c: number, inner: number): void => {
    // The triangle looks away from the inner grid point.
    const place = [inner % nx, Math.floor(inner / nx) % ny, Math.floor(inner / step[2])].map(
      (v, k) => low[k] + v * cell,
    );
    const at = (v: number): number[] => [0, 1, 2].map((k) => points[v * 3 + k]);
    const [p, q, r] = [at(a), at(b), at(c)];
    const u = q.map((v, k) => v - p[k]);
    const w = r.map((v, k) => v - p[k]);
    const out = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
    const away = out.reduce((sum, v, k) => sum + v * (p[k] - place[k]), 0);
    triangles.push(a, ...(away >= 0 ? [b, c] : [c, b]));
  };
  for (let z = 0; z < nz - 1; z++)
    for (let y = 0; y < ny - 1; y++)
      for (let x = 0; x < nx - 1; x++) {
        const base = x + step[1] * y + step[2] * z;
        let count = 0;
        for (const offset of offsets) if (values[base + offset] > 0) count++;
        if (count === 0 || count === 8) continue;
        for (const tetrahedron of TETRAHEDRA) {
          const corners = tetrahedron.map((c) => base + offsets[c]);
          const inner = corners.filter((c) => values[c] > 0);
          const outer = corners.filter((c) => values[c] <= 0);
          if (inner.length === 1 || inner.length === 3) {
            const [one, three] = inner.length === 1 ? [inner[0], outer] : [outer[0], inner];
            const [a, b, c] = three.map((other) => between(one, other));
            add(a, b, c, inner[0]);
          } else if (inner.length === 2) {
            const [a, b, c, d] = [
              between(inner[0], outer[0]),
              between(inner[0], outer[1]),
              between(inner[1], outer[1]),
              between(inner[1], outer[0]),
            ];
            add(a, b, c, inner[0]);
            add(a, c, d, inner[0]);
          }
        }
      }
  const positions = Float32Array.from(points);
  return { positions, normals: vertexNormals(positions, triangles), triangles };
}
