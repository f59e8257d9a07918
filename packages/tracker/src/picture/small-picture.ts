import type { Picture } from './picture';

/** The picture in so many squares, and so many pixels of each that are asked, in a row. */
export const COLUMNS = 32;
export const ROWS = 18;
const ASKED = 4;

/** Mean brightness of each square. */
export function smallPicture({ width, height, data }: Picture): Float32Array {
  const out = new Float32Array(COLUMNS * ROWS);
  for (let row = 0; row < ROWS * ASKED; row++) {
    const y = Math.floor(((row + 0.5) / (ROWS * ASKED)) * height);
    for (let column = 0; column < COLUMNS * ASKED; column++) {
      const at = (y * width + Math.floor(((column + 0.5) / (COLUMNS * ASKED)) * width)) * 3;
      const light = 0.3 * data[at] + 0.59 * data[at + 1] + 0.11 * data[at + 2];
      out[Math.floor(row / ASKED) * COLUMNS + Math.floor(column / ASKED)] += light / ASKED ** 2;
    }
  }
  return out;
}

/** Correlation of two pictures, and the standard deviation of what the first does not explain of the second. */
export function compare(a: Float32Array, b: Float32Array): { like: number; change: number } {
  let [sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0];
  for (let i = 0; i < a.length; i++) {
    sa += a[i];
    sb += b[i];
    aa += a[i] * a[i];
    bb += b[i] * b[i];
    ab += a[i] * b[i];
  }
  const [va, vb] = [aa - (sa * sa) / a.length, bb - (sb * sb) / a.length];
  // Two pictures of one even shade are alike.
  const like = va * vb > 1e-6 ? (ab - (sa * sb) / a.length) / Math.sqrt(va * vb) : va === vb ? 1 : 0;
  return { like, change: Math.sqrt(Math.max(0, (vb * (1 - like * like)) / a.length)) };
}
