import { senseDepth, sensorSize } from './render/depth-sensor';

const [WIDTH, HEIGHT] = [160, 120];
/** A room of which each pixel lies so far away. */
const room = (distance: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => distance(i % WIDTH, Math.floor(i / WIDTH)));
const told = (distances: Float32Array, seed = 3): number[] =>
  Array.from(senseDepth(distances, WIDTH, HEIGHT, seed)).filter((value) => value > 0);
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
    const [columns, rows] = sensorSize(WIDTH, HEIGHT);
    expect(near.length).toBeGreaterThan(columns * rows * 0.97);
    expect(near.length).toBeLessThan(columns * rows);
  });

  it('tells nothing along edges, too near, too far and of the sky', () => {
    const [columns, rows] = sensorSize(WIDTH, HEIGHT);
    const edge = senseDepth(
      room((x) => (x < 81 ? 2 : 3)),
      WIDTH,
      HEIGHT,
      3,
    );
    for (let y = 0; y < rows; y++) expect(edge[y * columns + 40]).toBe(0);
    for (const distance of [0.3, 8.5, Infinity]) expect(told(room(() => distance))).toEqual([]);
  });

  it('sees the same again with the same seed', () => {
    const wall = room(() => 3);
    expect(told(wall)).toEqual(told(wall));
    expect(told(wall)).not.toEqual(told(wall, 4));
  });
});
