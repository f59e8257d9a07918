import { quat, vec3 } from 'gl-matrix';
import { multiply, multiplyBack, normaliseTurn, rotate, rotateBack, turnBetweenLines } from './flat-turns';
import './double-precision';

const A = quat.fromEuler(quat.create(), 20, -50, 110);
const B = quat.fromEuler(quat.create(), -70, 15, 40);
const V: vec3 = [0.3, -1.2, 0.7];
/** Both turns one after the other in one array, behind two numbers of something else. */
const flat = Float64Array.from([9, 9, ...A, ...B]);

const close = (own: ArrayLike<number>, real: ArrayLike<number>): void => {
  for (let i = 0; i < real.length; i++) expect(own[i]).toBeCloseTo(real[i], 9);
};

describe('turns on flat arrays', () => {
  it('turn vectors there and back, from and to any place of an array', () => {
    const out = new Float64Array(5);
    rotate(flat, 2, V[0], V[1], V[2], out, 1);
    close(out.subarray(1, 4), vec3.transformQuat([0, 0, 0], V, A));
    expect([out[0], out[4]]).toEqual([0, 0]);
    rotateBack(flat, 2, out[1], out[2], out[3], out, 1);
    close(out.subarray(1, 4), V);
  });

  it('follow each other, and undo each other', () => {
    const out = new Float64Array(4);
    multiply(flat, 2, flat, 6, out, 0);
    close(out, quat.multiply(quat.create(), A, B));
    multiplyBack(flat, 2, flat, 6, out, 0);
    close(out, quat.multiply(quat.create(), quat.conjugate(quat.create(), A), B));
  });

  it('may be written over what they are made of', () => {
    const own = flat.slice();
    multiply(own, 2, own, 6, own, 2);
    close(own.subarray(2, 6), quat.multiply(quat.create(), A, B));
    const vector = Float64Array.from(V);
    rotate(flat, 6, vector[0], vector[1], vector[2], vector);
    close(vector, vec3.transformQuat([0, 0, 0], V, B));
  });

  it('are brought to length one', () => {
    const long = Float32Array.from([...A].map((value) => value * 3));
    normaliseTurn(long, 0);
    expect(Math.hypot(...long)).toBeCloseTo(1, 6);
    const none = new Float64Array(4);
    normaliseTurn(none, 0);
    expect([...none]).toEqual([0, 0, 0, 0]);
  });

  it.each([
    [
      [1, 0, 0],
      [0, 0.6, 0.8],
    ],
    [
      [0, 0, 1],
      [0, 0, 1],
    ],
    [
      [0, 1, 0],
      [0, -1, 0],
    ],
    [
      [1, 0, 0],
      [-1, 0, 0],
    ],
  ])('lead from %j to %j the shortest way', (from, to) => {
    const turn = new Float64Array(4);
    turnBetweenLines(from[0], from[1], from[2], to[0], to[1], to[2], turn);
    close(vec3.transformQuat([0, 0, 0], from as vec3, turn as unknown as quat), to);
    const angle = 2 * Math.acos(Math.min(1, Math.abs(turn[3])));
    expect(angle).toBeCloseTo(vec3.angle(from as vec3, to as vec3), 5);
  });
});
