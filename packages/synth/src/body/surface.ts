import { shapeBox, shapeDistance, smoothMinimum, type Shape } from './shapes';

/** A triangle mesh in the rest pose. */
export interface Surface {
  /** vertices × 3, metres. */
  positions: Float32Array;
  normals: Float32Array;
  /** Material of each vertex. */
  materials: Uint8Array;
  /** Which shape each vertex is nearest to. */
  owners: Uint16Array;
  /** Light that reaches the vertex past its surroundings, 0 … 1. */
  openness: Float32Array;
  /** Colour of each vertex against its material's, vertices × 3; its own where left out. */
  tint?: Float32Array;
  triangles: Uint32Array;
}

const FAR = 1e3;

/**
 * Meshes blended shapes with naive surface nets (S. Gibson, "Constrained elastic surface nets", 1998).
 * @param cell edge of a grid cell, metres.
 */
export function meshShapes(shapes: readonly Shape[], cell: number): Surface {
  const margin = 0.04 + cell * 2;
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (const shape of shapes) {
    const [a, b] = shapeBox(shape);
    for (let i = 0; i < 3; i++) {
      low[i] = Math.min(low[i], a[i] - margin);
      high[i] = Math.max(high[i], b[i] + margin);
    }
  }
  const size = [0, 1, 2].map((i) => Math.ceil((high[i] - low[i]) / cell) + 1);
  const [nx, ny, nz] = size;
  const field = new Float32Array(nx * ny * nz).fill(FAR);
  const nearest = new Float32Array(nx * ny * nz).fill(FAR);
  const owner = new Uint16Array(nx * ny * nz);
  shapes.forEach((shape, number) => {
    const [a, b] = shapeBox(shape);
    const from = [0, 1, 2].map((i) => Math.max(0, Math.floor((a[i] - margin - low[i]) / cell)));
    const to = [0, 1, 2].map((i) => Math.min(size[i] - 1, Math.ceil((b[i] + margin - low[i]) / cell)));
    for (let z = from[2]; z <= to[2]; z++) {
      for (let y = from[1]; y <= to[1]; y++) {
        for (let x = from[0]; x <= to[0]; x++) {
          const at = x + nx * (y + ny * z);
          const d = shapeDistance(shape, low[0] + x * cell, low[1] + y * cell, low[2] + z * cell);
          field[at] = smoothMinimum(field[at], d, shape.blend);
          if (d < nearest[at]) {
            nearest[at] = d;
            owner[at] = number;
          }
        }
      }
    }
  });
  return extract(shapes, field, owner, size, low, cell);
}

function extract(
  shapes: readonly Shape[],
  field: Float32Array,
  owner: Uint16Array,
  size: number[],
  low: number[],
  cell: number,
): Surface {
  const [nx, ny, nz] = size;
  const step = [1, nx, nx * ny];
  const vertexAt = new Int32Array(field.length).fill(-1);
  const points: number[] = [];
  const owners: number[] = [];
  for (let z = 0; z < nz - 1; z++) {
    for (let y = 0; y < ny - 1; y++) {
      for (let x = 0; x < nx - 1; x++) {
        const base = x + nx * (y + ny * z);
        let inside = 0;
        for (let c = 0; c < 8; c++)
          if (field[base + (c & 1) + ((c >> 1) & 1) * step[1] + (c >> 2) * step[2]] < 0) inside++;
        if (inside === 0 || inside === 8) continue;
        const sum = [0, 0, 0];
        let crossings = 0;
        for (let c = 0; c < 8; c++) {
          for (let axis = 0; axis < 3; axis++) {
            if (c & (1 << axis)) continue;
            const corner = [c & 1, (c >> 1) & 1, c >> 2];
            const i = base + corner[0] + corner[1] * step[1] + corner[2] * step[2];
            const a = field[i];
            const b = field[i + step[axis]];
            if (a < 0 === b < 0) continue;
            corner[axis] += a / (a - b);
            for (let k = 0; k < 3; k++) sum[k] += corner[k];
            crossings++;
          }
        }
        vertexAt[base] = owners.length;
        const place = [x, y, z];
        for (let k = 0; k < 3; k++) points.push(low[k] + (place[k] + sum[k] / crossings) * cell);
        owners.push(owner[base]);
      }
    }
  }
  const triangles: number[] = [];
  for (let z = 1; z < nz - 1; z++) {
    for (let y = 1; y < ny - 1; y++) {
      for (let x = 1; x < nx - 1; x++) {
        const base = x + nx * (y + ny * z);
        for (let axis = 0; axis < 3; axis++) {
          const a = field[base] < 0;
          if (a === field[base + step[axis]] < 0) continue;
          const u = step[(axis + 1) % 3];
          const v = step[(axis + 2) % 3];
          const quad = [vertexAt[base - u - v], vertexAt[base - v], vertexAt[base], vertexAt[base - u]];
          if (quad.some((index) => index < 0)) continue;
          const [p, q, r, s] = a ? quad : [quad[3], quad[2], quad[1], quad[0]];
          triangles.push(p, q, r, p, r, s);
        }
      }
    }
  }
  const positions = Float32Array.from(points);
  const normals = vertexNormals(positions, triangles);
  const sample = (x: number, y: number, z: number): number => {
    const i = [x, y, z].map((value, k) => Math.round((value - low[k]) / cell));
    if (i.some((value, k) => value < 0 || value >= size[k])) return FAR;
    return field[i[0] + nx * (i[1] + ny * i[2])];
  };
  const openness = new Float32Array(owners.length);
  for (let v = 0; v < owners.length; v++) {
    let blocked = 0;
    for (let k = 1; k <= 4; k++) {
      const far = k * 0.02;
      const d = sample(
        positions[v * 3] + normals[v * 3] * far,
        positions[v * 3 + 1] + normals[v * 3 + 1] * far,
        positions[v * 3 + 2] + normals[v * 3 + 2] * far,
      );
      blocked += Math.max(0, far - Math.min(far, d)) / far / 2 ** (k - 1);
    }
    openness[v] = Math.max(0.25, 1 - 0.75 * blocked);
  }
  return {
    positions,
    normals,
    materials: Uint8Array.from(owners, (index) => shapes[index].material),
    owners: Uint16Array.from(owners),
    openness,
    triangles: Uint32Array.from(triangles),
  };
}

/** Triangles between the rows of a grid of vertices, row by row; each row joined to its beginning where it is closed. */
export function rowsJoined(rows: number, columns: number, closed = true): number[] {
  const triangles: number[] = [];
  for (let row = 0; row + 1 < rows; row++)
    for (let i = 0; i < (closed ? columns : columns - 1); i++) {
      const n = (i + 1) % columns;
      const [a, b, c, d] = [row * columns + i, row * columns + n, (row + 1) * columns + n, (row + 1) * columns + i];
      triangles.push(a, b, c, a, c, d);
    }
  return triangles;
}

/**
 * A surface of triangles that looks outwards.
 * @param openness of all its vertices.
 */
export function closedSurface(
  positions: Float32Array,
  triangles: readonly number[],
  materials: ArrayLike<number>,
  owners: ArrayLike<number>,
  openness: number,
): Surface {
  const faces = outward(positions, triangles);
  return {
    positions,
    normals: vertexNormals(positions, faces),
    materials: Uint8Array.from(materials),
    owners: Uint16Array.from(owners),
    openness: new Float32Array(materials.length).fill(openness),
    triangles: Uint32Array.from(faces),
  };
}

/** Colours of a surface's vertices against their materials'. */
export const tintOf = ({ tint, positions }: Surface): Float32Array =>
  tint ?? new Float32Array(positions.length).fill(1);

/** Several surfaces as one; owners keep their numbers. */
export function mergeSurfaces(surfaces: readonly Surface[]): Surface {
  const joined = <T extends Float32Array | Uint8Array | Uint16Array>(pick: (surface: Surface) => T): number[] =>
    surfaces.flatMap((surface) => Array.from(pick(surface)));
  let first = 0;
  const triangles = surfaces.flatMap((surface) => {
    const own = Array.from(surface.triangles, (corner) => corner + first);
    first += surface.materials.length;
    return own;
  });
  return {
    positions: Float32Array.from(joined(({ positions }) => positions)),
    normals: Float32Array.from(joined(({ normals }) => normals)),
    materials: Uint8Array.from(joined(({ materials }) => materials)),
    owners: Uint16Array.from(joined(({ owners }) => owners)),
    openness: Float32Array.from(joined(({ openness }) => openness)),
    ...(surfaces.some(({ tint }) => tint) && { tint: Float32Array.from(joined(tintOf)) }),
    triangles: Uint32Array.from(triangles),
  };
}

/** Triangles of a closed surface in an order by which its normals look outwards: those of a negative volume are turned over. */
export function outward(positions: Float32Array, triangles: readonly number[]): number[] {
  let volume = 0;
  const at = (corner: number, k: number): number => positions[corner * 3 + k];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t], triangles[t + 1], triangles[t + 2]];
    volume +=
      at(a, 0) * (at(b, 1) * at(c, 2) - at(b, 2) * at(c, 1)) +
      at(a, 1) * (at(b, 2) * at(c, 0) - at(b, 0) * at(c, 2)) +
      at(a, 2) * (at(b, 0) * at(c, 1) - at(b, 1) * at(c, 0));
  }
  return volume >= 0 ? [...triangles] : [...triangles].reverse();
}

export function vertexNormals(positions: Float32Array, triangles: ArrayLike<number>): Float32Array {
  const normals = new Float32Array(positions.length);
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [triangles[t] * 3, triangles[t + 1] * 3, triangles[t + 2] * 3];
    const [ux, uy, uz] = [
      positions[b] - positions[a],
      positions[b + 1] - positions[a + 1],
      positions[b + 2] - positions[a + 2],
    ];
    const [vx, vy, vz] = [
      positions[c] - positions[a],
      positions[c + 1] - positions[a + 1],
      positions[c + 2] - positions[a + 2],
    ];
    const n = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    for (const at of [a, b, c]) for (let k = 0; k < 3; k++) normals[at + k] += n[k];
  }
  for (let i = 0; i < normals.length; i += 3) {
    const length = Math.hypot(normals[i], normals[i + 1], normals[i + 2]) || 1;
    for (let k = 0; k < 3; k++) normals[i + k] /= length;
  }
  return normals;
}
