import { pitchFromLine, type PicturePoint } from './level-line';
import { lookAt, pitchOf, project } from './pinhole';

const [WIDTH, HEIGHT] = [960, 540];
const cameras = [-20, -5, 0, 8, 25, 45].map((pitch) => {
  const rise = Math.tan((pitch * Math.PI) / 180);
  return [pitch, lookAt([0, 2, 0], [0.4, 2 - rise * 2, -2], 60, WIDTH, HEIGHT)] as const;
});

describe('the pitch of a camera, told by a line', () => {
  it.each(cameras)('along the horizon, at %s°', (_, camera) => {
    const [a, b] = [-3, 4].map((x): PicturePoint => {
      const far = project(camera, x * 1000 + 500, 2, -4000);
      return [far[0], far[1]];
    });
    const told = pitchFromLine('horizon', [a, b], camera.focal, WIDTH, HEIGHT) as number;
    expect(told).toBeCloseTo(pitchOf(camera), 6);
    expect(pitchFromLine('horizon', [b, a], camera.focal, WIDTH, HEIGHT)).toBeCloseTo(told, 10);
  });

  it.each(cameras)('along a door frame, at %s°', (_, camera) => {
    for (const x of [-1.5, 1.9]) {
      const [a, b] = [0.2, 1.9].map((y): PicturePoint => {
        const point = project(camera, x, y, -4);
        return [point[0], point[1]];
      });
      const told = pitchFromLine('upright', [a, b], camera.focal, WIDTH, HEIGHT) as number;
      expect(told).toBeCloseTo(pitchOf(camera), 6);
      expect(pitchFromLine('upright', [b, a], camera.focal, WIDTH, HEIGHT)).toBeCloseTo(told, 10);
    }
  });

  it.each([
    ['a line too short', 'horizon', [100, 100], [103, 101]],
    ['a horizon that stands', 'horizon', [500, 100], [505, 400]],
    ['an upright edge that lies', 'upright', [100, 300], [800, 320]],
    ['an upright edge in the middle', 'upright', [480, 100], [481, 500]],
  ] as const)('is not told by %s', (_, kind, a, b) => {
    expect(pitchFromLine(kind, [a, b], 800, WIDTH, HEIGHT)).toBeNull();
  });
});
