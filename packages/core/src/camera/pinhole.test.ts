import { focalFromFieldOfView, lookAt, pitchOf, project, rayThrough } from './pinhole';

describe('pinhole camera', () => {
  const camera = lookAt([1, 1.5, 4], [0, 1, 0], 60, 1280, 720);

  it('sees its target in the middle of the picture', () => {
    const [x, y, depth] = project(camera, 0, 1, 0);
    expect(x).toBeCloseTo(640, 6);
    expect(y).toBeCloseTo(360, 6);
    expect(depth).toBeCloseTo(Math.hypot(1, 0.5, 4), 6);
  });

  it('tells how far it looks down', () => {
    expect(pitchOf(camera)).toBeCloseTo(Math.atan2(0.5, Math.hypot(1, 4)), 9);
    expect(pitchOf(lookAt([0, 1, 4], [0, 3, 0], 60, 640, 360))).toBeCloseTo(-Math.atan2(2, 4), 9);
  });

  it('spans its field of view over the long side', () => {
    expect(focalFromFieldOfView(90, 1280, 720)).toBeCloseTo(640, 6);
    expect(focalFromFieldOfView(90, 720, 1280)).toBeCloseTo(640, 6);
  });

  it('has image y downwards and x to the right', () => {
    expect(project(camera, 0, 1.5, 0)[1]).toBeLessThan(360);
    expect(project(camera, 0.5, 1, 0)[0]).toBeGreaterThan(640);
  });

  it('goes back along the ray of a pixel', () => {
    const ray = rayThrough(camera, 200, 500);
    const point = [0, 1, 2].map((i) => camera.position[i] + ray[i] * 3.2);
    const [x, y, depth] = project(camera, point[0], point[1], point[2]);
    expect([x, y, depth].map((v) => Number(v.toFixed(6)))).toEqual([200, 500, 3.2]);
  });

  it('refuses to look at itself', () => {
    expect(() => lookAt([0, 0, 0], [0, 0, 0], 60, 10, 10)).toThrow('own target');
  });
});
