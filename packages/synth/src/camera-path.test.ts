import { describe, expect, it } from '@jest/globals';
import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { cameraPath } from './choreography/camera-path';
import { readScript } from './choreography/script';
import { setStage } from './stage';
import { truthOf } from './truth';

const script = (camera: object, seed = 4) =>
  readScript(JSON.stringify({ name: 'pan', seed, seconds: 4, camera, performers: [{}] }));
const path = (camera: object, seed?: number): PinholeCamera[] => cameraPath(script(camera, seed), 120);
const STAND = { position: [0, 1.4, 5], target: [0, 1, 0] };

const rms = (values: number[]): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};

describe('the path of a camera', () => {
  it('is one camera when it stands', () => {
    const [camera, ...others] = path(STAND);
    expect(others).toEqual([]);
    expect(camera.position).toEqual([0, 1.4, 5]);
  });

  it('meets its keys and looks where they say', () => {
    const cameras = path({
      ...STAND,
      moves: [
        { at: 0, ...STAND },
        { at: 3, position: [1, 1.4, 5], target: [1, 1, 0] },
      ],
    });
    expect(cameras).toHaveLength(120);
    expect(cameras[0].position[0]).toBeCloseTo(0, 1);
    expect(cameras[110].position[0]).toBeCloseTo(1, 3);
    // It moves to the side without turning.
    for (const { axes } of cameras) expect(axes[0]).toBeCloseTo(1, 6);
  });

  it('strays as a hand does, more in a more unsteady one, and the same way each time', () => {
    const pitch = (cameras: PinholeCamera[]): number[] =>
      cameras.map(({ axes }) => (Math.asin(axes[7]) * 180) / Math.PI);
    const usual = path({ ...STAND, handheld: 1 });
    expect(rms(pitch(usual))).toBeGreaterThan(0.15);
    expect(rms(pitch(usual))).toBeLessThan(0.9);
    expect(rms(pitch(path({ ...STAND, handheld: 2 })))).toBeCloseTo(2 * rms(pitch(usual)), 1);
    expect(path({ ...STAND, handheld: 1 })).toEqual(usual);
    expect(path({ ...STAND, handheld: 1 }, 5)).not.toEqual(usual);
    for (const { axes } of usual)
      for (const row of [0, 3, 6]) expect(Math.hypot(axes[row], axes[row + 1], axes[row + 2])).toBeCloseTo(1, 6);
  });

  it('is told in the truth, frame by frame, only where it moves', () => {
    const moved = truthOf(setStage(script({ ...STAND, handheld: 1 })), 0);
    expect(moved.cameraPath).toHaveLength(120);
    expect(moved.cameraPath?.[0].slice(0, 3)).toEqual(moved.camera.position.map((value) => Number(value.toFixed(7))));
    expect(truthOf(setStage(script(STAND)), 0).cameraPath).toBeUndefined();
  });
});
