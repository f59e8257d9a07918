import { HAND_ANGLES } from './finger-turns';

/** Degrees of thumb, index, middle, ring and little finger: three bends and the spread, see `finger-turns.ts`. */
type Degrees = readonly [readonly number[], readonly number[], readonly number[], readonly number[], readonly number[]];

const OUT = [2, 3, 2, 0];
const IN = [80, 98, 62, 0];
const THUMB_OVER = [22, 42, 48, 46];
const spreadOut = (bends: readonly number[]): number[][] =>
  [-11, -3, 6, 14].map((angle) => [...bends.slice(0, 3), angle]);

const SHAPES = {
  relaxed: [
    [8, 14, 12, 14],
    [22, 30, 14, -2],
    [26, 34, 16, 0],
    [30, 38, 18, 2],
    [32, 38, 20, 4],
  ],
  open: [[-10, -4, -2, 0], ...spreadOut([-2, 3, 2])],
  flat: [[14, 4, 2, 8], OUT, OUT, OUT, OUT],
  fist: [THUMB_OVER, IN, IN, IN, IN],
  point: [THUMB_OVER, OUT, IN, IN, IN],
  two: [[26, 46, 44, 52], [2, 3, 2, -9], [2, 3, 2, 4], IN, IN],
  three: [[26, 46, 44, 56], [2, 3, 2, -9], OUT, [2, 3, 2, 9], IN],
  thumb: [[-14, -6, -8, -4], IN, IN, IN, IN],
  pinch: [
    [20, 24, 22, 44],
    [50, 52, 26, 0],
    [26, 30, 14, 2],
    [22, 26, 12, 6],
    [18, 22, 10, 10],
  ],
  grip: [
    [18, 26, 28, 50],
    [52, 62, 34, -3],
    [56, 66, 36, 0],
    [60, 68, 38, 2],
    [64, 66, 38, 4],
  ],
  claw: [
    [-2, 34, 40, 16],
    [4, 78, 52, -9],
    [4, 80, 54, -2],
    [4, 80, 54, 5],
    [6, 76, 50, 12],
  ],
} satisfies Record<string, readonly (readonly number[])[]>;

/** Ready shapes of a hand. */
export type HandShape = keyof typeof SHAPES;
export const HAND_SHAPE_NAMES = Object.keys(SHAPES) as HandShape[];

/** The ready shape that a hand is most like, and how far its angles are from it on average, radians. */
export function nearestShape(pose: ArrayLike<number>): { shape: HandShape; off: number } {
  const [nearest] = HAND_SHAPE_NAMES.map((shape) => {
    const ready = handShape(shape);
    return { shape, off: ready.reduce((sum, angle, i) => sum + Math.abs(angle - pose[i]), 0) / HAND_ANGLES };
  }).sort((a, b) => a.off - b.off);
  return nearest;
}

/** The angles of a ready shape, radians (`HAND_ANGLES`). */
export function handShape(name: HandShape): Float64Array {
  const degrees = (SHAPES[name] as unknown as Degrees).flat();
  return Float64Array.from({ length: HAND_ANGLES }, (_, i) => (degrees[i] * Math.PI) / 180);
}
