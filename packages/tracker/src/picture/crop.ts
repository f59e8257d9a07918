import type { Picture, Region } from './picture';

export interface CropOptions {
  /** Edge of the crop, pixels. */
  size: number;
  /** Values for black and white: [0, 1] or [−1, 1]. */
  range: readonly [number, number];
  /** Channels one after the other (NCHW) or pixel by pixel (NHWC). */
  planar: boolean;
  /** What lies outside the picture: black, or its edge drawn out. */
  border: 'black' | 'edge';
  /** As seen in a mirror: left and right change sides. */
  mirrored?: boolean;
}

/**
 * Samples a turned square region bilinearly at pixel centres, without antialiasing.
 * @param out size × size × 3 values.
 */
export function cropRegion(picture: Picture, region: Region, options: CropOptions, out: Float32Array): void {
  const { size, planar } = options;
  const { width, height, data } = picture;
  const step = region.size / size;
  // From one row to the next (−dy, dx), from one column to the next (columnX, columnY).
  const dx = Math.cos(region.angle) * step;
  const dy = Math.sin(region.angle) * step;
  const [columnX, columnY] = options.mirrored ? [-dx, -dy] : [dx, dy];
  const low = options.range[0];
  const scale = (options.range[1] - low) / 255;
  const edge = options.border === 'edge';
  const green = planar ? size * size : 1;
  const stride = planar ? 1 : 3;
  const half = (size - 1) / 2;
  const last = size - 1;
  for (let row = 0; row < size; row++) {
    let x = region.x - 0.5 - columnX * half - dy * (row - half);
    let y = region.y - 0.5 - columnY * half + dx * (row - half);
    let at = row * size * stride;
    // A row whose two ends lie well inside lies inside as a whole: no borders to look after.
    if (
      x >= 0 &&
      y >= 0 &&
      x < width - 1 &&
      y < height - 1 &&
      x + last * columnX >= 0 &&
      y + last * columnY >= 0 &&
      x + last * columnX < width - 1.001 &&
      y + last * columnY < height - 1.001
    ) {
      sampleInside(picture, x, y, columnX, columnY, size, low, scale, out, at, green, stride);
      continue;
    }
    for (let column = 0; column < size; column++, x += columnX, y += columnY, at += stride) {
      const fx = Math.floor(x);
      const fy = Math.floor(y);
      let wx = x - fx;
      let wy = y - fy;
      let x0 = fx;
      let y0 = fy;
      let keep00 = 1;
      let keep10 = 1;
      let keep01 = 1;
      let keep11 = 1;
      if (fx < 0 || fy < 0 || fx >= width - 1 || fy >= height - 1) {
        if (edge) {
          if (x <= 0) {
            x0 = 0;
            wx = 0;
          } else if (x >= width - 1) {
            x0 = Math.max(0, width - 2);
            wx = width > 1 ? 1 : 0;
          }
          if (y <= 0) {
            y0 = 0;
            wy = 0;
          } else if (y >= height - 1) {
            y0 = Math.max(0, height - 2);
            wy = height > 1 ? 1 : 0;
          }
        } else {
          const in0 = fx >= 0 && fx < width ? 1 : 0;
          const in1 = fx + 1 >= 0 && fx + 1 < width ? 1 : 0;
          const top = fy >= 0 && fy < height ? 1 : 0;
          const bottom = fy + 1 >= 0 && fy + 1 < height ? 1 : 0;
          keep00 = in0 * top;
          keep10 = in1 * top;
          keep01 = in0 * bottom;
          keep11 = in1 * bottom;
          if (keep00 + keep10 + keep01 + keep11 === 0) {
            out[at] = low;
            out[at + green] = low;
            out[at + 2 * green] = low;
            continue;
          }
        }
      }
      const right = width > 1 ? 3 : 0;
      const down = height > 1 ? width * 3 : 0;
      const a = (y0 * width + x0) * 3;
      const w00 = (1 - wx) * (1 - wy) * keep00 * scale;
      const w10 = wx * (1 - wy) * keep10 * scale;
      const w01 = (1 - wx) * wy * keep01 * scale;
      const w11 = wx * wy * keep11 * scale;
      const i00 = keep00 ? a : 0;
      const i10 = keep10 ? a + right : 0;
      const i01 = keep01 ? a + down : 0;
      const i11 = keep11 ? a + right + down : 0;
      out[at] = low + data[i00] * w00 + data[i10] * w10 + data[i01] * w01 + data[i11] * w11;
      out[at + green] = low + data[i00 + 1] * w00 + data[i10 + 1] * w10 + data[i01 + 1] * w01 + data[i11 + 1] * w11;
      out[at + 2 * green] = low + data[i00 + 2] * w00 + data[i10 + 2] * w10 + data[i01 + 2] * w01 + data[i11 + 2] * w11;
    }
  }
}

/** One row of samples, all of them at least a pixel away from the right and lower border. */
function sampleInside(
  { data, width }: Picture,
  startX: number,
  startY: number,
  dx: number,
  dy: number,
  size: number,
  low: number,
  scale: number,
  out: Float32Array,
  start: number,
  green: number,
  stride: number,
): void {
  const down = width * 3;
  let x = startX;
  let y = startY;
  let at = start;
  for (let column = 0; column < size; column++, x += dx, y += dy, at += stride) {
    const x0 = x | 0;
    const y0 = y | 0;
    const wx = x - x0;
    const wy = y - y0;
    const w00 = (1 - wx) * (1 - wy) * scale;
    const w10 = wx * (1 - wy) * scale;
    const w01 = (1 - wx) * wy * scale;
    const w11 = wx * wy * scale;
    const i = (y0 * width + x0) * 3;
    const k = i + down;
    out[at] = low + data[i] * w00 + data[i + 3] * w10 + data[k] * w01 + data[k + 3] * w11;
    out[at + green] = low + data[i + 1] * w00 + data[i + 4] * w10 + data[k + 1] * w01 + data[k + 4] * w11;
    out[at + green + green] = low + data[i + 2] * w00 + data[i + 5] * w10 + data[k + 2] * w01 + data[k + 5] * w11;
  }
}
