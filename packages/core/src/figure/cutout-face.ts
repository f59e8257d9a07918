import type { FaceShape } from '../face/face-shapes';
import { restPositions, type Skeleton } from '../motion/skeleton';
import { figureScale, meshPieces, type Piece } from './pieces';

/** What a part of the face is made of. */
export const FACE_PAPERS = ['skin', 'white', 'iris', 'brow', 'lip', 'mouth'] as const;
export type FacePaper = (typeof FACE_PAPERS)[number];

/** A cut-out face before the figure's head, with what its shapes do to it. */
export interface CutoutFace {
  /** vertices × 3, metres, from the head joint. */
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** For each vertex its place in `FACE_PAPERS`. */
  papers: Uint8Array;
  /** For each shape that moves something: vertices × 3, metres at full strength. */
  targets: Map<FaceShape, Float32Array>;
}

/** Sizes for a body of 1.75 m, metres from the head joint. */
const EYE = { x: 0.034, y: 0.078, z: 0.104, wide: 0.0165, tall: 0.0105 };
const BROW = { y: 0.103, wide: 0.019 };
const MOUTH = { y: 0.004, z: 0.1005, wide: 0.026 };

type Place = readonly [x: number, y: number, z: number];
/** Where a vertex of a part goes when a shape is fully made; the place is counted from the part's middle, in its half sizes. */
type Move = (place: Place) => Place;

interface Part {
  paper: FacePaper;
  at: Place;
  /** Half sizes: across, up, ahead. */
  half: Place;
  moves: Partial<Record<FaceShape, Move>>;
}

/** Makes the face for a skeleton's head. */
export function cutoutFace(skeleton: Skeleton): CutoutFace {
  const scale = figureScale(skeleton, restPositions(skeleton));
  const parts = faceParts();
  const pieces = parts.map(({ at, half }): Piece => {
    const [x, y, z] = at.map((value) => value * scale);
    const [a, b, c] = half.map((value) => value * scale);
    // A piece lies along +X: its cross axes are then +Z and +Y.
    return {
      joint: 'head',
      from: [x - a, y, z],
      to: [x + a, y, z],
      start: [c, b],
      end: [c, b],
      outline: 2,
      rings: 8,
      spokes: 14,
    };
  });
  const { owners, ...mesh } = meshPieces(pieces, () => [0, 0, 0]);
  const targets = new Map<FaceShape, Float32Array>();
  owners.forEach((owner, v) => {
    const { at, half, moves } = parts[owner];
    const place = [0, 1, 2].map((k) => (mesh.positions[v * 3 + k] / scale - at[k]) / half[k]) as unknown as Place;
    for (const [name, move] of Object.entries(moves)) {
      const shape = name as FaceShape;
      if (!targets.has(shape)) targets.set(shape, new Float32Array(owners.length * 3));
      const shift = move(place).map((value) => value * scale);
      if (shift.some((value) => value !== 0)) targets.get(shape)?.set(shift, v * 3);
    }
  });
  return { ...mesh, papers: Uint8Array.from(owners, (owner) => FACE_PAPERS.indexOf(parts[owner].paper)), targets };
}

const up =
  (metres: number): Move =>
  () => [0, metres, 0];

function faceParts(): Part[] {
  return [...eye(1), ...eye(-1), ...mouth()];
}

/** White, iris, lids and brow of a side. */
function eye(side: 1 | -1): Part[] {
  const name = side > 0 ? 'Left' : 'Right';
  const [out, into] = side > 0 ? (['Out', 'In'] as const) : (['In', 'Out'] as const);
  const x = side * EYE.x;
  const turned = 0.0075;
  const lid = (above: 1 | -1, moves: Part['moves']): Part => ({
    paper: 'skin',
    at: [x, EYE.y + above * EYE.tall * 1.05, EYE.z + 0.002],
    half: [EYE.wide * 1.12, 0.0042, 0.0085],
    moves,
  });
  return [
    { paper: 'white', at: [x, EYE.y, EYE.z], half: [EYE.wide, EYE.tall, 0.006], moves: {} },
    {
      paper: 'iris',
      at: [x, EYE.y, EYE.z + 0.0048],
      half: [0.0062, 0.0066, 0.0032],
      moves: {
        [`eyeLook${out}${name}`]: () => [turned, 0, -0.0012],
        [`eyeLook${into}${name}`]: () => [-turned, 0, -0.0012],
        [`eyeLookUp${name}`]: up(0.0048),
        [`eyeLookDown${name}`]: up(-0.0048),
      },
    },
    lid(1, {
      // Its lower edge goes down over the eye.
      [`eyeBlink${name}`]: ([, y]: Place) => [0, y < 0.4 ? -EYE.tall * 1.75 : -0.002, 0.002],
      [`eyeWide${name}`]: up(0.0036),
      [`eyeSquint${name}`]: ([, y]: Place) => [0, y < 0 ? -0.0034 : 0, 0.001],
      [`eyeLookDown${name}`]: ([, y]: Place) => [0, y < 0 ? -0.0034 : 0, 0],
    }),
    lid(-1, {
      [`eyeBlink${name}`]: up(0.0012),
      [`eyeWide${name}`]: up(-0.0014),
      [`eyeSquint${name}`]: ([, y]: Place) => [0, y > -0.4 ? 0.0052 : 0.0012, 0.001],
      [`cheekSquint${name}`]: up(0.002),
    }),
    {
      paper: 'brow',
      at: [x * 1.03, BROW.y, EYE.z + 0.004],
      half: [BROW.wide, 0.0032, 0.005],
      moves: {
        // A brow's inner end is that towards the middle of the face.
        browInnerUp: ([u]: Place) => [0, 0.0125 * share(-u * side), 0],
        [`browOuterUp${name}`]: ([u]: Place) => [0, 0.0125 * share(u * side), 0],
        [`browDown${name}`]: ([u]: Place) => [-side * 0.003, -0.006 - 0.004 * share(-u * side), 0.001],
      },
    },
  ];
}

/** From 0 at one end of a part to 1 at the other. */
const share = (u: number): number => Math.min(1, Math.max(0, (u + 1) / 2));

/** Lips, what is between them, and the chin. */
function mouth(): Part[] {
  /** How much of a move of a corner a place takes part in: all at the corner, nothing at the middle. */
  const corner =
    (side: 1 | -1, shift: Place): Move =>
    ([u]) => {
      const part = Math.max(0, u * side) ** 1.5;
      return [side * shift[0] * part, shift[1] * part, shift[2] * part];
    };
  const both = (name: string, shift: Place): Part['moves'] => ({
    [`${name}Left`]: corner(1, shift),
    [`${name}Right`]: corner(-1, shift),
  });
  const half =
    (side: 1 | -1, shift: number): Move =>
    ([u]) => [0, shift * Math.max(0, 1 - Math.abs(u - side * 0.4) * 1.4), 0];
  const shared: Part['moves'] = {
    ...both('mouthSmile', [0.007, 0.011, -0.004]),
    ...both('mouthFrown', [0.001, -0.009, -0.002]),
    ...both('mouthStretch', [0.008, -0.003, -0.004]),
    ...both('mouthDimple', [0.005, 0.001, -0.005]),
    mouthPucker: ([u]: Place) => [-0.011 * u, 0, 0.007],
    mouthLeft: () => [0.009, 0, -0.001],
    mouthRight: () => [-0.009, 0, -0.001],
    jawLeft: () => [0.005, 0, 0],
    jawRight: () => [-0.005, 0, 0],
  };
  const lip = (above: 1 | -1, moves: Part['moves']): Part => ({
    paper: 'lip',
    at: [0, MOUTH.y + above * 0.0036, MOUTH.z],
    half: [MOUTH.wide, 0.0042, 0.0065],
    moves: { ...shared, ...moves },
  });
  const opened = -0.03;
  return [
    {
      paper: 'mouth',
      at: [0, MOUTH.y, MOUTH.z - 0.0035],
      half: [MOUTH.wide * 0.9, 0.003, 0.0055],
      moves: {
        ...shared,
        jawOpen: ([u, y]: Place) => [-0.003 * u, y < 0 ? opened * 0.92 : 0, 0],
        mouthFunnel: ([u, y]: Place) => [-0.008 * u, y < 0 ? -0.007 : 0.004, 0.006],
      },
    },
    lip(1, {
      mouthFunnel: ([u]: Place) => [-0.008 * u, 0.005, 0.008],
      mouthUpperUpLeft: half(1, 0.008),
      mouthUpperUpRight: half(-1, 0.008),
      jawOpen: ([u]: Place) => [-0.003 * u, u * u * -0.006, 0],
    }),
    lip(-1, {
      mouthFunnel: ([u]: Place) => [-0.008 * u, -0.008, 0.008],
      mouthLowerDownLeft: half(1, -0.008),
      mouthLowerDownRight: half(-1, -0.008),
      mouthShrugLower: up(0.003),
      jawOpen: ([u]: Place) => [-0.003 * u, opened * (1 - 0.8 * u * u), 0],
    }),
    {
      paper: 'skin',
      at: [0, -0.03, 0.067],
      half: [0.038, 0.03, 0.024],
      moves: {
        jawOpen: ([, y]: Place) => [0, -0.024 * share(-y * 1.4), 0],
        jawForward: () => [0, 0, 0.008],
        jawLeft: () => [0.008, 0, 0],
        jawRight: () => [-0.008, 0, 0],
        mouthShrugLower: up(0.003),
      },
    },
  ];
}
