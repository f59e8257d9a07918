import { cleanDepth, senseDepth, sensorSize } from './render/depth-sensor';

const [WIDTH, HEIGHT] = [160, 120];
/** A room of which each pixel lies so far away. */
const room = (distance: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => distance(i % WIDTH, Math.floor(i / WIDTH)));
const [COLUMNS, ROWS] = sensorSize(WIDTH, HEIGHT);
const sensed = (distances: Float32Array, seed = 3): Uint16Array =>
  senseDepth(cleanDepth(distances, WIDTH, HEIGHT), COLUMNS, ROWS, seed);
const told = (distances: Float32Array, seed = 3): number[] =>
  Array.from(sensed(distances, seed)).filter((value) => value > 0);
const spread = (values: number[]): number => {
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return Math.sqrt(values.reduce((sum, value) => sum + (value - mean) ** 2, 0) / values.length);
};

describe('the simulated depth camera', () => {
  it('tells millimetres with noise that grows with the distance', () => {
    const [near, far] = [told(room(() => 1.5)), told(room(() => 4.5))];
    expect(near.reduce((a, b) => a + b, 0) / near.length).toBeCloseTo(1500, -1);
    // Nine times as much at three times the distance.
    expect(spread(far) / spread(near)).toBeGreaterThan(7);
    expect(spread(far) / spread(near)).toBeLessThan(11);
    expect(near.length).toBeGreaterThan(COLUMNS * ROWS * 0.97);
    expect(near.length).toBeLessThan(COLUMNS * ROWS);
  });

  it('bleeds or tells nothing along edges', () => {
    const edge = sensed(room((x) => (x < 80 ? 2 : 3)));
    const along = Array.from({ length: ROWS }, (_, y) => [edge[y * COLUMNS + 39], edge[y * COLUMNS + 40]]).flat();
    const mixed = along.filter((value) => value > 2050 && value < 2950).length;
    expect(along.filter((value) => value === 0).length).toBeGreaterThan(along.length * 0.4);
    expect(mixed).toBeGreaterThan(along.length * 0.2);
    // Two pixels beside the edge all is well.
    for (let y = 0; y < ROWS; y++) expect(Math.abs((edge[y * COLUMNS + 37] || 2000) - 2000)).toBeLessThan(40);
  });

  it('tells nothing too near, too far and of the sky, nor along them', () => {
    for (const distance of [0.3, 8.5, Infinity]) expect(told(room(() => distance))).toEqual([]);
    const sky = sensed(room((x) => (x < 80 ? 2 : Infinity)));
    for (let y = 0; y < ROWS; y++) expect(sky[y * COLUMNS + 39]).toBe(0);
  });

  it('sees the same again with the same seed', () => {
    const wall = room(() => 3);
    expect(told(wall)).toEqual(told(wall));
    expect(told(wall)).not.toEqual(told(wall, 4));
  });
});
