import { jointIndex, restPositions, type Skeleton } from '../motion/skeleton';
import { SIDES } from '../motion/humanoid';

/**
 * A simple solid body for a skeleton: one rounded, tapered piece for each bone, like a cut-out figure.
 * It stands for the performer in the 3D view and in exported files without a character.
 */
export interface CutoutFigure {
  /** vertices × 3, metres, rest pose. */
  positions: Float32Array;
  normals: Float32Array;
  indices: Uint32Array;
  /** vertices × 4 joint indices and weights. */
  joints: Uint16Array;
  weights: Float32Array;
  /** Whose side: 0 middle, 1 left, 2 right. */
  sides: Uint8Array;
}

interface Piece {
  joint: string;
  /** Ends relative to the joint, metres. */
  from: readonly number[];
  to: readonly number[];
  /** Half width (along the first cross axis) and half depth at both ends. */
  start: readonly [number, number];
  end: readonly [number, number];
  /** Outline: 2 an ellipse, higher more like a tube with rounded ends. */
  outline?: number;
}

const RINGS = 8;
const SPOKES = 12;

/** Builds the figure. Sizes follow the bone lengths. */
export function cutoutFigure(skeleton: Skeleton): CutoutFigure {
  const rest = restPositions(skeleton);
  const pieces = bodyPieces(skeleton, rest);
  const perPiece = (RINGS + 1) * SPOKES + 2;
  const total = pieces.length * perPiece;
  const figure: CutoutFigure = {
    positions: new Float32Array(total * 3),
    normals: new Float32Array(total * 3),
    indices: new Uint32Array(pieces.length * (RINGS * SPOKES * 6 + SPOKES * 6)),
    joints: new Uint16Array(total * 4),
    weights: new Float32Array(total * 4),
    sides: new Uint8Array(total),
  };
  let index = 0;
  pieces.forEach((piece, number) => {
    const joint = jointIndex(skeleton, piece.joint);
    const base = number * perPiece;
    const origin = [rest[joint * 3], rest[joint * 3 + 1], rest[joint * 3 + 2]];
    addPiece(figure, base, origin, piece);
    for (let v = base; v < base + perPiece; v++) {
      figure.joints[v * 4] = joint;
      figure.weights[v * 4] = 1;
      figure.sides[v] = piece.joint.startsWith('left') ? 1 : piece.joint.startsWith('right') ? 2 : 0;
    }
    for (let r = 0; r < RINGS; r++) {
      for (let s = 0; s < SPOKES; s++) {
        const a = base + r * SPOKES + s;
        const b = base + r * SPOKES + ((s + 1) % SPOKES);
        figure.indices.set([a, b, b + SPOKES, a, b + SPOKES, a + SPOKES], index);
        index += 6;
      }
    }
    const [bottom, top] = [base + (RINGS + 1) * SPOKES, base + (RINGS + 1) * SPOKES + 1];
    for (let s = 0; s < SPOKES; s++) {
      const next = (s + 1) % SPOKES;
      figure.indices.set(
        [bottom, base + next, base + s, top, base + RINGS * SPOKES + s, base + RINGS * SPOKES + next],
        index,
      );
      index += 6;
    }
  });
  return figure;
}

function addPiece(figure: CutoutFigure, base: number, origin: readonly number[], piece: Piece): void {
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
      figure.positions[v * 3 + i] = origin[i] + place[i];
      figure.normals[v * 3 + i] = normal[i] / size;
    }
  };
  for (let r = 0; r <= RINGS; r++) {
    const t = r / RINGS;
    // Rounded ends: the outline narrows like a superellipse.
    const round = Math.pow(Math.max(0, 1 - Math.pow(Math.abs(2 * t - 1), piece.outline ?? 5)), 0.5) * 0.88 + 0.12;
    const hw = (piece.start[0] + (piece.end[0] - piece.start[0]) * t) * round;
    const hd = (piece.start[1] + (piece.end[1] - piece.start[1]) * t) * round;
    const lean = r === 0 ? -1 : r === RINGS ? 1 : 0;
    for (let s = 0; s < SPOKES; s++) {
      const angle = (s / SPOKES) * 2 * Math.PI;
      const [c, sn] = [Math.cos(angle), Math.sin(angle)];
      const place = [0, 1, 2].map((i) => piece.from[i] + axis[i] * t + w[i] * hw * c + d[i] * hd * sn);
      write(
        base + r * SPOKES + s,
        place,
        [0, 1, 2].map((i) => w[i] * c * hd + d[i] * sn * hw + along[i] * lean * 0.6 * Math.min(hw, hd)),
      );
    }
  }
  write(
    base + (RINGS + 1) * SPOKES,
    [...piece.from],
    along.map((v) => -v),
  );
  write(base + (RINGS + 1) * SPOKES + 1, [...piece.to], along);
}

function bodyPieces(skeleton: Skeleton, rest: Float64Array): Piece[] {
  const place = (name: string): number[] => {
    const i = jointIndex(skeleton, name) * 3;
    return [rest[i], rest[i + 1], rest[i + 2]];
  };
  const has = (name: string): boolean => jointIndex(skeleton, name) >= 0;
  const span = (from: string, to: string): number[] => place(to).map((v, i) => v - place(from)[i]);
  const tall = place('head')[1] + (skeleton.joints[jointIndex(skeleton, 'head')].tip?.[1] ?? 0.2);
  const s = tall / 1.75;
  const shoulder = Math.abs(place('leftUpperArm')[0]);
  const hip = Math.abs(place('leftUpperLeg')[0]);
  const waist = 0.7 * hip + 0.055 * s;
  const neck = span('upperChest', 'neck');
  const pieces: Piece[] = [
    {
      joint: 'hips',
      from: [0, -0.1 * s, 0],
      to: [0, 0.08 * s, 0],
      start: [hip + 0.07 * s, 0.1 * s],
      end: [waist + 0.03 * s, 0.1 * s],
      outline: 4,
    },
    {
      joint: 'spine',
      from: [0, -0.035 * s, 0],
      to: span('spine', 'chest').map((v) => v * 1.2),
      start: [waist, 0.09 * s],
      end: [waist + 0.02 * s, 0.095 * s],
    },
    {
      joint: 'chest',
      from: [0, -0.03 * s, 0],
      to: span('chest', 'upperChest').map((v) => v * 1.25),
      start: [waist + 0.015 * s, 0.095 * s],
      end: [shoulder * 0.88, 0.105 * s],
    },
    {
      joint: 'upperChest',
      from: [0, -0.05 * s, 0],
      to: neck.map((v) => v * 0.98),
      start: [shoulder * 0.93, 0.108 * s],
      end: [shoulder * 0.62, 0.08 * s],
    },
    {
      joint: 'neck',
      from: [0, -0.035 * s, -0.004 * s],
      to: span('neck', 'head').map((v) => v * 1.2),
      start: [0.052 * s, 0.052 * s],
      end: [0.048 * s, 0.05 * s],
    },
    {
      joint: 'head',
      from: [0, -0.05 * s, 0.02 * s],
      to: [0, 0.185 * s, 0.01 * s],
      start: [0.07 * s, 0.09 * s],
      end: [0.092 * s, 0.108 * s],
      outline: 2.6,
    },
    // A nose, so that the direction of the head is seen from afar.
    {
      joint: 'head',
      from: [0, 0.05 * s, 0.085 * s],
      to: [0, 0.03 * s, 0.128 * s],
      start: [0.016 * s, 0.02 * s],
      end: [0.012 * s, 0.012 * s],
    },
  ];
  for (const side of SIDES) {
    const k = side === 'left' ? 1 : -1;
    const out = (x: number): number[] => [k * x, 0, 0];
    const arm = span(`${side}UpperArm`, `${side}LowerArm`);
    const fore = span(`${side}LowerArm`, `${side}Hand`);
    const thigh = span(`${side}UpperLeg`, `${side}LowerLeg`);
    const shin = span(`${side}LowerLeg`, `${side}Foot`);
    pieces.push(
      {
        joint: `${side}UpperArm`,
        from: out(-0.055 * s),
        to: arm.map((v) => v * 1.06),
        start: [0.056 * s, 0.06 * s],
        end: [0.04 * s, 0.042 * s],
      },
      {
        joint: `${side}LowerArm`,
        from: out(-0.02 * s),
        to: fore.map((v) => v * 1.02),
        start: [0.043 * s, 0.043 * s],
        end: [0.03 * s, 0.027 * s],
      },
      {
        joint: `${side}Hand`,
        from: out(-0.012 * s),
        to: out(0.17 * s),
        start: [0.034 * s, 0.02 * s],
        end: [0.038 * s, 0.014 * s],
      },
      {
        joint: `${side}UpperLeg`,
        from: [0, 0.07 * s, 0],
        to: thigh.map((v) => v * 1.04),
        start: [0.082 * s, 0.088 * s],
        end: [0.055 * s, 0.057 * s],
      },
      {
        joint: `${side}LowerLeg`,
        from: [0, 0.03 * s, 0],
        to: shin.map((v) => v * 1.03),
        start: [0.055 * s, 0.058 * s],
        end: [0.037 * s, 0.041 * s],
      },
    );
    const ankle = place(`${side}Foot`)[1];
    const ball = has(`${side}Toes`) ? span(`${side}Foot`, `${side}Toes`) : [0, -0.75 * ankle, 0.15 * s];
    pieces.push({
      joint: `${side}Foot`,
      from: [0, -0.55 * ankle, -0.8 * ankle],
      to: [0, -0.58 * ankle, ball[2] + 0.02 * s],
      start: [0.038 * s, 0.45 * ankle],
      end: [0.045 * s, 0.4 * ankle],
    });
    if (has(`${side}Toes`)) {
      const toeUp = place(`${side}Toes`)[1];
      pieces.push({
        joint: `${side}Toes`,
        from: [0, 0.32 * ankle - toeUp, -0.03 * s],
        to: [0, 0.3 * ankle - toeUp, 0.075 * s],
        start: [0.045 * s, 0.32 * ankle],
        end: [0.036 * s, 0.26 * ankle],
      });
    }
  }
  return pieces;
}
