import { whittakerColumns } from './whittaker';

const cuts = (count: number, value: number): Float64Array => new Float64Array(count).fill(value);
const wave = (count: number, step: number, width = 1): Float32Array =>
  Float32Array.from({ length: count * width }, (_, i) => Math.cos(Math.floor(i / width) * step));
const height = (values: Float32Array): number => Math.max(...values.slice(40, -40).map(Math.abs));

describe('Whittaker smoothing', () => {
  it('leaves a parabola as it is, up to and with its ends', () => {
    const thrown = Float32Array.from({ length: 50 }, (_, i) => 2 + 0.3 * i - 0.01 * i * i);
    const smooth = whittakerColumns(thrown, 1, cuts(50, 0.3));
    for (let i = 0; i < 50; i++) expect(smooth[i]).toBeCloseTo(thrown[i], 3);
  });

  it('halves the frequency of the cut, takes out what is faster and keeps what is slower', () => {
    const at = (step: number): number => height(whittakerColumns(wave(400, step), 1, cuts(400, 0.6)));
    expect(at(0.6)).toBeCloseTo(0.5, 2);
    expect(at(0.3)).toBeGreaterThan(0.97);
    expect(at(1.5)).toBeLessThan(0.02);
  });

  it('moves nothing in time', () => {
    const bump = Float32Array.from({ length: 81 }, (_, i) => Math.exp(-0.5 * ((i - 40) / 4) ** 2));
    const smooth = whittakerColumns(bump, 1, cuts(81, 0.5));
    for (let i = 0; i < 40; i++) expect(smooth[i]).toBeCloseTo(smooth[80 - i], 5);
  });

  it('smooths each place by its own cut', () => {
    const trembling = Float32Array.from({ length: 200 }, (_, i) => (i % 2 ? 1 : -1));
    const smooth = whittakerColumns(
      trembling,
      1,
      Float64Array.from({ length: 200 }, (_, i) => (i < 100 ? 0.2 : 3.1)),
    );
    expect(Math.abs(smooth[50])).toBeLessThan(0.01);
    expect(Math.abs(smooth[150])).toBeGreaterThan(0.45);
  });

  it('keeps columns apart and the input alone', () => {
    const two = wave(60, 2.5, 2);
    for (let i = 1; i < two.length; i += 2) two[i] = 7;
    const before = two.slice();
    const smooth = whittakerColumns(two, 2, cuts(60, 0.4));
    for (let i = 1; i < smooth.length; i += 2) expect(smooth[i]).toBeCloseTo(7, 4);
    expect(Math.abs(smooth[60])).toBeLessThan(0.05);
    expect(two).toEqual(before);
  });

  it('gives three samples or fewer as they are', () => {
    const few = Float32Array.of(1, -4, 2);
    expect(whittakerColumns(few, 1, cuts(3, 0.1))).toEqual(few);
    expect(whittakerColumns(new Float32Array(0), 1, cuts(0, 0.1))).toHaveLength(0);
  });
});
