import { quat, vec3 } from 'gl-matrix';
import './double-precision';

/** Turns built from directions. All vectors are metres or plain directions; results are unit quaternions. */

const X: vec3 = [0, 0, 0];
const Y: vec3 = [0, 0, 0];
const Z: vec3 = [0, 0, 0];

function fromAxes(x: vec3, y: vec3, z: vec3): quat {
  return quat.normalize(
    [0, 0, 0, 1],
    quat.fromMat3([0, 0, 0, 1], [x[0], x[1], x[2], y[0], y[1], y[2], z[0], z[1], z[2]]),
  );
}

/** The turn whose +X runs along `x` and whose +Y leans to `y`. */
export function turnFromXY(x: vec3, y: vec3): quat {
  vec3.normalize(X, x);
  vec3.cross(Z, X, y);
  vec3.normalize(Z, Z);
  vec3.cross(Y, Z, X);
  return fromAxes(X, Y, Z);
}

/** The turn whose +Y runs along `y` and whose +X leans to `x`. */
export function turnFromYX(y: vec3, x: vec3): quat {
  vec3.normalize(Y, y);
  vec3.cross(Z, x, Y);
  vec3.normalize(Z, Z);
  vec3.cross(X, Y, Z);
  return fromAxes(X, Y, Z);
}

/** The turn whose +Z runs along `z` and whose +X leans to `x`. */
export function turnFromZX(z: vec3, x: vec3): quat {
  vec3.normalize(Z, z);
  vec3.cross(Y, Z, x);
  vec3.normalize(Y, Y);
  vec3.cross(X, Y, Z);
  return fromAxes(X, Y, Z);
}

/** The world axis of a turn: 0 x, 1 y, 2 z. */
export function axisOf(turn: quat, axis: 0 | 1 | 2): vec3 {
  const unit: vec3 = [0, 0, 0];
  unit[axis] = 1;
  return vec3.transformQuat([0, 0, 0], unit, turn);
}

/** 0 below `low`, 1 above `high`, smooth between. */
export function smoothStep(low: number, high: number, value: number): number {
  const t = Math.min(1, Math.max(0, (value - low) / (high - low)));
  return t * t * (3 - 2 * t);
}
