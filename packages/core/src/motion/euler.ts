import { quat } from 'gl-matrix';
import { turnRows } from './turn-rows';

const DEGREES = 180 / Math.PI;
/** Axes by the letters of an order. */
export const AXES: Record<string, number> = { X: 0, Y: 1, Z: 2 };

/**
 * Euler angles of a turn for any order of three different axes, intrinsic: 'ZXY' means first about
 * Z, then about the turned X, then about the turned Y (the BVH convention).
 * @returns degrees in the order of the axes; the middle angle lies in −90 … 90.
 */
export function eulerFromQuaternion(q: ArrayLike<number>, order: string): [number, number, number] {
  const [i, j, k] = [...order].map((axis) => AXES[axis]);
  const sign = (j - i + 3) % 3 === 1 ? 1 : -1;
  const rows = turnRows(q[0], q[1], q[2], q[3]);
  const m = (row: number, column: number): number => rows[row * 3 + column];
  const middle = Math.asin(Math.max(-1, Math.min(1, sign * m(i, k))));
  if (Math.abs(m(i, k)) < 1 - 1e-9) {
    return [
      Math.atan2(-sign * m(j, k), m(k, k)) * DEGREES,
      middle * DEGREES,
      Math.atan2(-sign * m(i, j), m(i, i)) * DEGREES,
    ];
  }
  return [Math.atan2(sign * m(k, j), m(j, j)) * DEGREES, middle * DEGREES, 0];
}

/** The turn that Euler angles (degrees, intrinsic, in the order of the axes) make. */
export function quaternionFromEuler(angles: readonly number[], order: string): quat {
  const out = quat.create();
  [...order].forEach((axis, i) => {
    const unit: [number, number, number] = [0, 0, 0];
    unit[AXES[axis]] = 1;
    quat.multiply(out, out, quat.setAxisAngle(quat.create(), unit, angles[i] / DEGREES));
  });
  return out;
}
