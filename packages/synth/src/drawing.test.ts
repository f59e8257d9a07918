import { lookAt } from '@merry-shadow/core/camera/pinhole';
import { interpolateKeys, sampleTrack, smoothSamples } from './choreography/keys';
import { projectVertices, rasterise, visibilityBuffer } from './render/raster';

/** The small parts that a made-up clip is built of. */
describe('values between keys', () => {
  const times = [0, 1, 2, 4];
  const values = [0, 10, 10, -5];

  it('meet every key and never overshoot', () => {
    times.forEach((time, i) => expect(interpolateKeys(times, values, time)).toBeCloseTo(values[i], 9));
    for (let t = 0; t <= 4; t += 0.05) {
      const value = interpolateKeys(times, values, t);
      expect(value).toBeLessThanOrEqual(10 + 1e-9);
      expect(value).toBeGreaterThanOrEqual(-5 - 1e-9);
    }
    expect(interpolateKeys(times, values, 1.5)).toBe(10);
  });

  it('hold at both ends, and are nothing without keys', () => {
    expect(interpolateKeys(times, values, -3)).toBe(0);
    expect(interpolateKeys(times, values, 9)).toBe(-5);
    expect(interpolateKeys([], [], 1)).toBe(0);
  });

  it('are sampled for every frame, keys in any order', () => {
    const keys = [
      { at: 1, x: 4 },
      { at: 0, x: 2 },
    ];
    const track = sampleTrack(keys, (key) => key.x, 61, 30, 7);
    expect(track).toHaveLength(61);
    expect(track[0]).toBeCloseTo(2, 2);
    expect(track[60]).toBeCloseTo(4, 6);
    for (const value of sampleTrack([] as typeof keys, (key) => key.x, 3, 30, 7)) expect(value).toBeCloseTo(7, 9);
  });

  it('keep their sum when smoothed', () => {
    const peak = new Float64Array(41);
    peak[20] = 1;
    const soft = smoothSamples(peak, 2.5);
    expect(soft.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 9);
    expect(soft[20]).toBeLessThan(0.2);
    expect(smoothSamples(peak, 0)).toEqual(peak);
  });
});

describe('the rasteriser', () => {
  const camera = lookAt([0, 0, 4], [0, 0, 0], 60, 80, 60);
  const square = (z: number, half: number): number[] => [
    -half,
    -half,
    z,
    half,
    -half,
    z,
    half,
    half,
    z,
    -half,
    half,
    z,
  ];

  it('projects as the camera does, and marks what lies behind it', () => {
    const out = new Float32Array(6);
    projectVertices(camera, Float32Array.of(0, 0, 0, 0, 0, 9), 2, out);
    expect([out[0], out[1]]).toEqual([80, 60]);
    expect(out[2]).toBeCloseTo(0.25, 6);
    expect(out[5]).toBe(0);
  });

  it('shows the nearest triangle, whatever the order, and fills without a seam', () => {
    for (const order of [
      [0, 1],
      [1, 0],
    ]) {
      const buffer = visibilityBuffer(80, 60);
      buffer.triangle.fill(-1);
      const positions = Float32Array.from([...square(0, 1), ...square(1, 0.4)]);
      const points = new Float32Array(positions.length);
      projectVertices(camera, positions, 1, points);
      const faces = [
        [0, 1, 2, 0, 2, 3],
        [4, 5, 6, 4, 6, 7],
      ];
      for (const i of order) rasterise(buffer, points, Uint32Array.from(faces[i]), i * 10);
      const at = (x: number, y: number): number => buffer.triangle[y * 80 + x];
      expect(at(40, 30)).toBeGreaterThanOrEqual(10);
      expect(at(40, 17)).toBeLessThan(10);
      expect(at(2, 2)).toBe(-1);
      // Along the diagonal both triangles of the square meet: nothing shows through.
      for (let k = 0; k < 20; k++) expect(at(30 + k, 40 - k)).toBeGreaterThanOrEqual(0);
    }
  });

  it('draws nothing of a triangle that reaches behind the camera', () => {
    const buffer = visibilityBuffer(80, 60);
    buffer.triangle.fill(-1);
    const points = new Float32Array(9);
    projectVertices(camera, Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 9), 1, points);
    rasterise(buffer, points, Uint32Array.of(0, 1, 2), 0);
    expect(buffer.triangle.every((triangle) => triangle === -1)).toBe(true);
  });
});
