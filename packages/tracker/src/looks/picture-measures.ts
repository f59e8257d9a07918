import type { Picture } from '../picture/picture';

/** Every so many pixels are asked for the brightness. */
const STRIDE = 6;
/** Edge of the tiles in which noise is told, and which of them are taken: the flattest fifth. */
const TILE = 24;
const FLATTEST = 0.2;

/** Brightness of a pixel, 0 … 255 (ITU-R BT.601). */
export const luma = (data: Uint8Array, at: number): number =>
  0.299 * data[at] + 0.587 * data[at + 1] + 0.114 * data[at + 2];

/** Mean brightness, 0 … 255. */
export function brightness({ width, height, data }: Picture): number {
  let [sum, count] = [0, 0];
  for (let y = 0; y < height; y += STRIDE)
    for (let x = 0; x < width; x += STRIDE, count++) sum += luma(data, (y * width + x) * 3);
  return sum / count;
}

/**
 * Noise, standard deviation in grey levels, from the flattest tiles of the picture: the mean of a Laplacian's amount, which knows nothing of even slopes
 * (J. Immerkær, "Fast noise variance estimation", CVIU 64, 1996).
 */
export function noiseLevel({ width, height, data }: Picture): number {
  const row = width * 3;
  const tiles: number[] = [];
  for (let top = 1; top + TILE < height; top += TILE * 2) {
    for (let left = 1; left + TILE < width; left += TILE) {
      let [sum, count] = [0, 0];
      for (let y = top; y < top + TILE; y += 3)
        for (let x = left; x < left + TILE; x += 2, count++) {
          // Green.
          const at = y * row + x * 3 + 1;
          sum += Math.abs(
            data[at - row - 3] +
              data[at - row + 3] +
              data[at + row - 3] +
              data[at + row + 3] -
              2 * (data[at - row] + data[at + row] + data[at - 3] + data[at + 3]) +
              4 * data[at],
          );
        }
      tiles.push(sum / count);
    }
  }
  tiles.sort((a, b) => a - b);
  return (Math.sqrt(Math.PI / 2) / 6) * (tiles[Math.floor(tiles.length * FLATTEST)] ?? 0);
}
