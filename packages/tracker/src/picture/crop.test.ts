import { cropRegion } from './crop';
import { regionToPicture, type Picture } from './picture';

/** Red grows to the right, green downwards. */
const ramp = (width: number, height: number): Picture => {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data.set([x * 2, y * 2, 9], (y * width + x) * 3);
  return { width, height, data };
};
const options = { size: 16, range: [0, 255] as const, planar: true, border: 'edge' as const };

describe('crops', () => {
  it('takes a square of the same size pixel by pixel', () => {
    const out = new Float32Array(16 * 16 * 3);
    cropRegion(ramp(64, 64), { x: 28, y: 18, size: 16, angle: 0 }, options, out);
    expect(out[0]).toBeCloseTo(20 * 2, 4);
    expect(out[256]).toBeCloseTo(10 * 2, 4);
    expect(out[255]).toBeCloseTo(35 * 2, 4);
    expect(out[512]).toBeCloseTo(9, 4);
  });

  it.each([0, 0.4, -2.2])("agrees with the region's own geometry when turned by %d", (angle) => {
    const region = { x: 40, y: 45, size: 30, angle };
    const out = new Float32Array(16 * 16 * 3);
    cropRegion(ramp(100, 100), region, options, out);
    for (const [column, row] of [
      [0, 0],
      [15, 3],
      [7, 12],
    ]) {
      const [x, y] = regionToPicture(region, (column + 0.5) / 16, (row + 0.5) / 16);
      expect(out[row * 16 + column]).toBeCloseTo((x - 0.5) * 2, 2);
      expect(out[256 + row * 16 + column]).toBeCloseTo((y - 0.5) * 2, 2);
    }
  });

  it('is turned from left to right in a mirror', () => {
    const region = { x: 40, y: 45, size: 30, angle: 0.7 };
    const [out, mirrored] = [new Float32Array(768), new Float32Array(768)];
    cropRegion(ramp(100, 100), region, options, out);
    cropRegion(ramp(100, 100), region, { ...options, mirrored: true }, mirrored);
    expect(Math.abs(out[0] - out[15])).toBeGreaterThan(10);
    for (let row = 0; row < 16; row++)
      for (let column = 0; column < 16; column++)
        expect(mirrored[row * 16 + column]).toBeCloseTo(out[row * 16 + 15 - column], 3);
  });

  it('gives the same values pixel by pixel as channel by channel', () => {
    const region = { x: 20, y: 30, size: 50, angle: 1 };
    const [planar, mixed] = [new Float32Array(768), new Float32Array(768)];
    cropRegion(ramp(64, 48), region, options, planar);
    cropRegion(ramp(64, 48), region, { ...options, planar: false }, mixed);
    for (let i = 0; i < 256; i++) for (let c = 0; c < 3; c++) expect(mixed[i * 3 + c]).toBe(planar[c * 256 + i]);
  });

  it('draws the edge out, or fills with black', () => {
    const out = new Float32Array(768);
    const picture: Picture = { width: 2, height: 2, data: new Uint8Array(12).fill(200) };
    cropRegion(picture, { x: 1, y: 1, size: 64, angle: 0.3 }, options, out);
    expect(Math.min(...out)).toBeCloseTo(200, 3);
    cropRegion(picture, { x: 1, y: 1, size: 16, angle: 0 }, { ...options, border: 'black', range: [-1, 1] }, out);
    expect(out[0]).toBe(-1);
    expect(Math.max(...out)).toBeGreaterThan(-1);
  });

  it('copes with a picture of one pixel', () => {
    const out = new Float32Array(768);
    cropRegion(
      { width: 1, height: 1, data: Uint8Array.of(10, 20, 30) },
      { x: 0.5, y: 0.5, size: 4, angle: 0 },
      options,
      out,
    );
    expect(out[100]).toBeCloseTo(10, 4);
    expect(out.every(Number.isFinite)).toBe(true);
  });
});
