import { mat3, vec3 } from 'gl-matrix';
import { describe, expect, it } from '@jest/globals';
import { focalFromFieldOfView } from './pinhole';
import { rotation, cameraMotionFocal, cameraMotionMap, cameraMotionOf, type CameraMotion } from './camera-motion';

const FOCAL = cameraMotionFocal(1280, 720);

/** Where a place of the picture goes, pixels from the middle. */
function moved(cameraMotion: CameraMotion, x: number, y: number): [number, number] {
  const ray = vec3.transformMat3([0, 0, 0], [x / FOCAL, y / FOCAL, 1], cameraMotionMap(cameraMotion, FOCAL));
  return [(ray[0] / ray[2]) * FOCAL, (ray[1] / ray[2]) * FOCAL];
}

describe('camera motion', () => {
  it('is told with the usual lens', () => expect(FOCAL).toBeCloseTo(focalFromFieldOfView(55, 1280, 720), 9));

  it('moves the middle by what it says, and the border by more', () => {
    const [x, y] = moved([20, -8, 0, 0], 0, 0);
    expect(x).toBeCloseTo(20, 1);
    expect(y).toBeCloseTo(-8, 1);
    expect(moved([20, 0, 0, 0], 600, 0)[0] - 600).toBeGreaterThan(24);
  });

  it('turns clockwise as seen on the screen, and grows from the middle', () => {
    const [x, y] = moved([0, 0, 0.1, 0], 100, 0);
    expect(x).toBeCloseTo(100 * Math.cos(0.1), 6);
    expect(y).toBeCloseTo(100 * Math.sin(0.1), 6);
    expect(moved([0, 0, 0, Math.log(1.25)], 40, -80)).toEqual([expect.closeTo(50, 6), expect.closeTo(-100, 6)]);
  });

  it('is read back from its map, and nothing from none', () => {
    for (const cameraMotion of [
      [0, 0, 0, 0],
      [3, 5, -0.02, 0.01],
      [-60, 25, 0.2, -0.1],
      [0, 0, 0, 0.3],
    ] as const)
      cameraMotionOf(cameraMotionMap(cameraMotion, FOCAL), FOCAL).forEach((value, k) =>
        expect(value).toBeCloseTo(cameraMotion[k], 8),
      );
    expect(cameraMotionOf(mat3.create(), FOCAL)).toEqual([0, 0, 0, 0]);
  });

  it('keeps lengths when it only turns', () => {
    const turn = rotation(0.4, -0.3, 0.8);
    for (const v of [
      [1, 0, 0],
      [0.3, -0.2, 1],
    ] as vec3[])
      expect(vec3.length(vec3.transformMat3([0, 0, 0], v, turn))).toBeCloseTo(vec3.length(v), 9);
  });

  it('is undone by its opposite, whatever the scale of a map', () => {
    const there = rotation(0.03, -0.02, 0.05);
    const product = mat3.multiply(mat3.create(), rotation(-0.03, 0.02, -0.05), there);
    expect(mat3.equals(product, mat3.create())).toBe(true);
    const larger = mat3.multiplyScalar(mat3.create(), cameraMotionMap([7, 1, 0.01, 0.02], FOCAL), 3);
    cameraMotionOf(larger, FOCAL).forEach((value, k) => expect(value).toBeCloseTo([7, 1, 0.01, 0.02][k], 5));
  });
});
