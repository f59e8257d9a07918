import { quat, vec3 } from 'gl-matrix';
import { headTurn, type FaceGeometry } from './head-turn';

/** A face of a few points on a ball, seen from far away. */
const basis = Array.from({ length: 33 }, (_, i) => [i * 14, 0.5 + (i % 3)] as const);
const ball = Array.from({ length: 468 }, (_, i) => [
  7 * Math.cos(i * 2.4) * Math.sin(i * 0.9),
  9 * Math.sin(i * 2.4),
  6 * Math.cos(i * 0.9),
]);
const middle = [0, 1, 2].map((k) => basis.reduce((sum, [mark]) => sum + ball[mark][k] / basis.length, 0));
const vertices = ball.flatMap((point) => point.map((value, k) => value - middle[k]));
const geometry: FaceGeometry = { vertices, basis };

/** Marks of the face turned and placed in a picture of 1280 × 720, without perspective. */
function seen(turn: quat, x = 640, y = 360, scale = 10): Float32Array {
  const out = new Float32Array(478 * 3);
  for (let i = 0; i < 468; i++) {
    const p = vec3.transformQuat([0, 0, 0], [vertices[i * 3], vertices[i * 3 + 1], vertices[i * 3 + 2]], turn);
    out.set([x + p[0] * scale, y - p[1] * scale, -p[2] * scale], i * 3);
  }
  return out;
}

const apart = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  (2 * Math.acos(Math.min(1, Math.abs(a[0] * b[0] + a[1] * b[1] + a[2] * b[2] + a[3] * b[3]))) * 180) / Math.PI;

describe('the turn of a head', () => {
  it.each([
    [0, 0, 0],
    [0, 30, 0],
    [20, -15, 10],
    [-25, 40, -30],
  ])('is found for %d, %d, %d degrees', (x, y, z) => {
    const turn = quat.fromEuler(quat.create(), x, y, z);
    expect(apart(headTurn(seen(turn), geometry, 1280, 720), turn)).toBeLessThan(0.5);
  });

  it('does not depend on the size of the face', () => {
    const turn = quat.fromEuler(quat.create(), 5, 12, 0);
    expect(
      apart(
        headTurn(seen(turn, 640, 360, 2), geometry, 1280, 720),
        headTurn(seen(turn, 640, 360, 30), geometry, 1280, 720),
      ),
    ).toBeLessThan(0.1);
  });

  it('counts the direction in which the face lies', () => {
    const aside = headTurn(seen(quat.create(), 1240, 360), geometry, 1280, 720);
    const yaw =
      (Math.atan2(2 * (aside[3] * aside[1] + aside[0] * aside[2]), 1 - 2 * (aside[0] ** 2 + aside[1] ** 2)) * 180) /
      Math.PI;
    expect(yaw).toBeLessThan(-20);
    expect(yaw).toBeGreaterThan(-30);
  });
});
