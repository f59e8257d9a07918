import { jointIndex, type Skeleton } from '../motion/skeleton';

/** A rounded, tapered solid between two ends, like a piece of a cut-out figure. */
export interface Piece {
  joint: string;
  /** Ends relative to the joint, metres. */
  from: readonly number[];
  to: readonly number[];
  /** Half width (along the first cross axis) and half depth at both ends. */
  start: readonly [number, number];
  end: readonly [number, number];
  /** Outline: 2 an ellipse, higher more like a tube with rounded ends. */
  outline?: number;
  /** How finely it is made. */
  rings?: number;
  spokes?: number;
}

/** Sizes of the figure for one of a body of 1.75 m. @param rest places of all joints at rest, metres. */
export function figureScale(skeleton: Skeleton, rest: Float64Array): number {
  const head = jointIndex(skeleton, 'head');
  return (rest[head * 3 + 1] + (skeleton.joints[head].tip?.[1] ?? 0.2)) / 1.75;
}

/** A mesh of pieces. */
export interface PieceMesh {
  /** vertices × 3, metres. */
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** Which piece each vertex belongs to. */
  owners: Uint16Array;
}

const RINGS = 8;
const SPOKES = 12;

/** Meshes pieces. @param origin where a piece's joint is, metres. */
export function meshPieces(pieces: readonly Piece[], origin: (piece: Piece) => readonly number[]): PieceMesh {
  const sizes = pieces.map(({ rings = RINGS, spokes = SPOKES }) => ({ rings, spokes }));
  const total = sizes.reduce((sum, { rings, spokes }) => sum + (rings + 1) * spokes + 2, 0);
  const corners = sizes.reduce((sum, { rings, spokes }) => sum + (rings + 1) * spokes * 6, 0);
  const mesh: PieceMesh = {
    positions: new Float32Array(total * 3),
    normals: new Float32Array(total * 3),
    indices: new Uint32Array(corners),
    owners: new Uint16Array(total),
  };
  let [base, index] = [0, 0];
  pieces.forEach((piece, number) => {
    const { rings, spokes } = sizes[number];
    addPiece(mesh, base, origin(piece), piece, rings, spokes);
    const count = (rings + 1) * spokes + 2;
    mesh.owners.fill(number, base, base + count);
    for (let r = 0; r < rings; r++)
      for (let s = 0; s < spokes; s++) {
        const a = base + r * spokes + s;
        const b = base + r * spokes + ((s + 1) % spokes);
        mesh.indices.set([a, b, b + spokes, a, b + spokes, a + spokes], index);
        index += 6;
      }
    const [bottom, top] = [base + count - 2, base + count - 1];
    for (let s = 0; s < spokes; s++) {
      const next = (s + 1) % spokes;
      mesh.indices.set(
        [bottom, base + next, base + s, top, base + rings * spokes + s, base + rings * spokes + next],
        index,
      );
      index += 6;
    }
    base += count;
  });
  return mesh;
}

function addPiece(
  mesh: PieceMesh,
  base: number,
  origin: readonly number[],
  piece: Piece,
  rings: number,
  spokes: number,
): void {
  const axis = [0, 1, 2].map((i) => piece.to[i] - piece.from[i]);
  const length = Math.hypot(...axis) || 1e-6;
  const along = axis.map((v) => v / length);
  // Cross axes: width lies as far as possible along +X or +Z, depth completes the frame.
  const hint = Math.abs(along[0]) > 0.7 ? [0, 0, 1] : [1, 0, 0];
  const dot = hint[0] * along[0] + hint[1] * along[1] + hint[2] * along[2];
  const wide = hint.map((v, i) => v - dot * along[i]);
  const wideLength = Math.hypot(...wide);
  const w = wide.map((v) => v / wideLength);
  const d = [along[1] * w[2] - along[2] * w[1], along[2] * w[0] - along[0] * w[2], along[0] * w[1] - along[1] * w[0]];
  const write = (v: number, place: number[], normal: number[]): void => {
    const size = Math.hypot(...normal) || 1;
    for (let i = 0; i < 3; i++) {
      mesh.positions[v * 3 + i] = origin[i] + place[i];
      mesh.normals[v * 3 + i] = normal[i] / size;
    }
  };
  for (let r = 0; r <= rings; r++) {
    const t = r / rings;
    // Rounded ends: the outline narrows like a superellipse.
    const round = Math.pow(Math.max(0, 1 - Math.pow(Math.abs(2 * t - 1), piece.outline ?? 5)), 0.5) * 0.88 + 0.12;
    const hw = (piece.start[0] + (piece.end[0] - piece.start[0]) * t) * round;
    const hd = (piece.start[1] + (piece.end[1] - piece.start[1]) * t) * round;
    const lean = r === 0 ? -1 : r === rings ? 1 : 0;
    for (let s = 0; s < spokes; s++) {
      const angle = (s / spokes) * 2 * Math.PI;
      const [c, sn] = [Math.cos(angle), Math.sin(angle)];
      const place = [0, 1, 2].map((i) => piece.from[i] + axis[i] * t + w[i] * hw * c + d[i] * hd * sn);
      write(
        base + r * spokes + s,
        place,
        [0, 1, 2].map((i) => w[i] * c * hd + d[i] * sn * hw + along[i] * lean * 0.6 * Math.min(hw, hd)),
      );
    }
  }
  write(
    base + (rings + 1) * spokes,
    [...piece.from],
    along.map((v) => -v),
  );
  write(base + (rings + 1) * spokes + 1, [...piece.to], along);
}
