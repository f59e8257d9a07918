/**
 * Quaternion arithmetic on flat arrays, for inner loops: nothing is allocated. Quaternions are (x, y, z, w); `at`, `i`,
 * `k` and `o` are where one begins in its array. Results may be written over their inputs.
 */
type Numbers = ArrayLike<number>;
type Out = Float64Array | Float32Array;

/** Turns a vector. */
export function rotate(q: Numbers, at: number, x: number, y: number, z: number, out: Out, o = 0): void {
  const a = q[at];
  const b = q[at + 1];
  const c = q[at + 2];
  const w = q[at + 3];
  const tx = 2 * (b * z - c * y);
  const ty = 2 * (c * x - a * z);
  const tz = 2 * (a * y - b * x);
  out[o] = x + w * tx + b * tz - c * ty;
  out[o + 1] = y + w * ty + c * tx - a * tz;
  out[o + 2] = z + w * tz + a * ty - b * tx;
}

/** Turns a vector back. */
export function rotateBack(q: Numbers, at: number, x: number, y: number, z: number, out: Out, o = 0): void {
  Q[0] = -q[at];
  Q[1] = -q[at + 1];
  Q[2] = -q[at + 2];
  Q[3] = q[at + 3];
  rotate(Q, 0, x, y, z, out, o);
}

/** The turn b followed by the turn a. */
export function multiply(a: Numbers, i: number, b: Numbers, k: number, out: Out, o: number): void {
  const ax = a[i];
  const ay = a[i + 1];
  const az = a[i + 2];
  const aw = a[i + 3];
  const bx = b[k];
  const by = b[k + 1];
  const bz = b[k + 2];
  const bw = b[k + 3];
  out[o] = aw * bx + ax * bw + ay * bz - az * by;
  out[o + 1] = aw * by + ay * bw + az * bx - ax * bz;
  out[o + 2] = aw * bz + az * bw + ax * by - ay * bx;
  out[o + 3] = aw * bw - ax * bx - ay * by - az * bz;
}

/** The turn b followed by the turn back from a. */
export function multiplyBack(a: Numbers, i: number, b: Numbers, k: number, out: Out, o: number): void {
  Q[0] = -a[i];
  Q[1] = -a[i + 1];
  Q[2] = -a[i + 2];
  Q[3] = a[i + 3];
  multiply(Q, 0, b, k, out, o);
}

export function normaliseTurn(q: Out, at: number): void {
  const length = Math.sqrt(q[at] * q[at] + q[at + 1] * q[at + 1] + q[at + 2] * q[at + 2] + q[at + 3] * q[at + 3]) || 1;
  for (let k = at; k < at + 4; k++) q[k] /= length;
}

/** The shortest turn from one direction to another, both of length one. */
export function turnBetweenLines(
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  out: Out,
  o = 0,
): void {
  const dot = ax * bx + ay * by + az * bz;
  if (dot < -0.999999) {
    // Half a turn about any axis across the first direction.
    const flat = Math.abs(ax) < 0.9;
    const [x, y, z] = flat ? [0, -az, ay] : [az, 0, -ax];
    const length = Math.hypot(x, y, z);
    out[o] = x / length;
    out[o + 1] = y / length;
    out[o + 2] = z / length;
    out[o + 3] = 0;
    return;
  }
  out[o] = ay * bz - az * by;
  out[o + 1] = az * bx - ax * bz;
  out[o + 2] = ax * by - ay * bx;
  out[o + 3] = 1 + dot;
  normaliseTurn(out, o);
}

const Q = new Float64Array(4);
