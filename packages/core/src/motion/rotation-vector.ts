import { quat } from 'gl-matrix';

/** A turn as axis × angle, the shorter way round. */
export function rotationVector([x, y, z, w]: Readonly<quat>): number[] {
  const sign = w < 0 ? -1 : 1;
  const sine = Math.hypot(x, y, z);
  const factor = sign * (sine < 1e-9 ? 2 : (2 * Math.atan2(sine, sign * w)) / sine);
  return [x * factor, y * factor, z * factor];
}

/** The turn of an axis × angle, so many times. */
export function turnOfVector([x, y, z]: readonly number[], times = 1): quat {
  const angle = Math.hypot(x, y, z);
  if (angle < 1e-9) return quat.create();
  return quat.setAxisAngle(quat.create(), [x / angle, y / angle, z / angle], angle * times);
}
