import type { quat } from 'gl-matrix';
import { bodyPartOf } from '../motion/body-parts';

/** Turns about three axes, one after the other, degrees: about x, y and z. */
export type AxisTurns = [x: number, y: number, z: number];

/** Which axis turns first, second and third, each in the axes that the ones before it have turned. The second one must stay below 90°. */
export type Order = readonly [number, number, number];
const SPINE_ORDER: Order = [1, 0, 2];
/** Bones of arms lie along x: they go forward about y, up about z, and twist about x. */
const ARM_ORDER: Order = [1, 2, 0];
/** Legs bend about x by more than a right angle, go aside about z, and twist about y. */
const LEG_ORDER: Order = [0, 2, 1];
const DEGREES = 180 / Math.PI;

/** The order for a joint of the humanoid skeleton. */
export function orderOf(joint: string): Order {
  if (/Shoulder$/.test(joint)) return ARM_ORDER;
  const part = bodyPartOf(joint);
  if (/Leg$/.test(part)) return LEG_ORDER;
  return /Arm$|Hand$/.test(part) ? ARM_ORDER : SPINE_ORDER;
}

/** The turn that three turns about axes make. @returns a unit quaternion. */
export function turnFromAxes(turns: readonly number[], order: Order, out: quat): quat {
  out[0] = out[1] = out[2] = 0;
  out[3] = 1;
  for (const axis of order) {
    const half = turns[axis] / DEGREES / 2;
    const [s, c] = [Math.sin(half), Math.cos(half)];
    // out × (s about the axis, c).
    const [x, y, z, w] = [out[0], out[1], out[2], out[3]];
    const [ax, ay, az] = [axis === 0 ? s : 0, axis === 1 ? s : 0, axis === 2 ? s : 0];
    out[0] = x * c + w * ax + y * az - z * ay;
    out[1] = y * c + w * ay + z * ax - x * az;
    out[2] = z * c + w * az + x * ay - y * ax;
    out[3] = w * c - x * ax - y * ay - z * az;
  }
  return out;
}

/**
 * The turns about three axes that make a turn (Tait–Bryan angles). Of the two ways and all whole turns more that make the same, the one nearest to others is taken, so that a course of them doesn't jump.
 * @param turn a unit quaternion. @param near what they should lie near to, degrees; axes that are NaN count for nothing.
 */
export function axesOfTurn(turn: ArrayLike<number>, order: Order, near: readonly number[]): AxisTurns {
  const [i, j, k] = order;
  const sign = (j - i + 3) % 3 === 1 ? 1 : -1;
  const matrix = rows(turn);
  const middle = Math.asin(Math.max(-1, Math.min(1, sign * matrix[i * 3 + k])));
  const first = Math.atan2(-sign * matrix[j * 3 + k], matrix[k * 3 + k]);
  const last = Math.atan2(-sign * matrix[i * 3 + j], matrix[i * 3 + i]);
  const ways = [
    [first, middle, last],
    [first + Math.PI, Math.PI - middle, last + Math.PI],
  ].map((way) => {
    const out: AxisTurns = [0, 0, 0];
    way.forEach((angle, n) => (out[order[n]] = nearest(angle * DEGREES, near[order[n]])));
    return out;
  });
  const far = (way: AxisTurns): number =>
    way.reduce((sum, angle, axis) => sum + (Number.isFinite(near[axis]) ? Math.abs(angle - near[axis]) : 0), 0);
  return far(ways[1]) < far(ways[0]) - 1e-6 ? ways[1] : ways[0];
}

const nearest = (angle: number, near: number): number =>
  Number.isFinite(near) ? angle + 360 * Math.round((near - angle) / 360) : angle - 360 * Math.round(angle / 360);

/** The rotation matrix of a unit quaternion, row by row. */
function rows(q: ArrayLike<number>): number[] {
  const [x, y, z, w] = [q[0], q[1], q[2], q[3]];
  return [
    ...[1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
    ...[2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
    ...[2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
  ];
}
