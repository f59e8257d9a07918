import { gaussianColumns, normaliseQuaternions } from './gaussian';

describe('Gaussian smoothing', () => {
  it('leaves a straight line as it is, up to and with its ends', () => {
    const line = Float32Array.from({ length: 40 * 2 }, (_, i) => (i % 2 ? 5 - 0.2 * (i >> 1) : 3 + 0.1 * (i >> 1)));
    const smooth = gaussianColumns(line, 2, 3);
    for (let i = 0; i < line.length; i++) expect(smooth[i]).toBeCloseTo(line[i], 4);
  });

  it('takes shake out and moves nothing in time', () => {
    const bump = Float32Array.from({ length: 61 }, (_, i) => Math.exp(-0.5 * ((i - 30) / 6) ** 2));
    const shaking = bump.map((value, i) => value + (i % 2 ? 0.1 : -0.1));
    const smooth = gaussianColumns(shaking, 1, 2);
    expect(smooth.indexOf(Math.max(...smooth))).toBe(30);
    for (let i = 5; i < 56; i++) {
      expect(Math.abs(smooth[i] - smooth[60 - i])).toBeLessThan(1e-5);
      expect(Math.abs(smooth[i] - bump[i])).toBeLessThan(0.06);
    }
  });

  it('keeps columns apart and the input alone', () => {
    const two = Float32Array.from({ length: 60 }, (_, i) => (i % 2 ? 7 : i % 4));
    const before = two.slice();
    const smooth = gaussianColumns(two, 2, 2);
    for (let i = 1; i < 60; i += 2) expect(smooth[i]).toBeCloseTo(7, 5);
    expect(two).toEqual(before);
  });

  it('does nothing for no width, and holds up on fewer samples than it is wide', () => {
    const values = Float32Array.of(1, 4, 2);
    expect(gaussianColumns(values, 1, 0)).toEqual(values);
    expect(gaussianColumns(values, 1, 10).every(Number.isFinite)).toBe(true);
    expect(gaussianColumns(Float32Array.of(3), 1, 10)[0]).toBeCloseTo(3, 6);
  });

  it('gives quaternions their length back', () => {
    const turns = normaliseQuaternions(Float32Array.of(0, 0, 0.6, 0.6, 0, 2, 0, 0));
    expect(turns[2]).toBeCloseTo(Math.SQRT1_2, 6);
    expect(turns[5]).toBeCloseTo(1, 6);
  });
});
