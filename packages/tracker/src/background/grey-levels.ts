import type { Picture } from '../picture/picture';

/** A grey picture of reduced size. */
export interface GreyLevel {
  /** Picture pixels for one of its own. */
  step: number;
  width: number;
  height: number;
  data: Float32Array;
}

/** Long side of the finest level, pixels at most. */
const FINEST = 240;
const LEVELS = 3;

/** Room for the levels of a picture of this size, the finest first, each half the one before. */
export function emptyLevels(width: number, height: number): GreyLevel[] {
  const finest = Math.max(1, Math.ceil(Math.max(width, height) / FINEST));
  return Array.from({ length: LEVELS }, (_, i) => {
    const step = finest * 2 ** i;
    const [w, h] = [Math.max(1, Math.floor(width / step)), Math.max(1, Math.floor(height / step))];
    return { step, width: w, height: h, data: new Float32Array(w * h) };
  });
}

/** Fills levels with a picture's brightness, 0 … 255: means over squares of its green, which is most of what is bright, taken from every second pixel. */
export function fillLevels({ data, width }: Picture, levels: readonly GreyLevel[]): void {
  const [finest] = levels;
  const { step } = finest;
  const skip = step > 2 ? 2 : 1;
  const share = 1 / Math.ceil(step / skip) ** 2;
  for (let y = 0; y < finest.height; y++) {
    for (let x = 0; x < finest.width; x++) {
      let sum = 0;
      for (let v = 0; v < step; v += skip) {
        let at = ((y * step + v) * width + x * step) * 3 + 1;
        for (let u = 0; u < step; u += skip, at += 3 * skip) sum += data[at];
      }
      finest.data[y * finest.width + x] = sum * share;
    }
  }
  for (let i = 1; i < levels.length; i++) halve(levels[i - 1], levels[i]);
}

function halve(fine: GreyLevel, coarse: GreyLevel): void {
  for (let y = 0; y < coarse.height; y++) {
    for (let x = 0; x < coarse.width; x++) {
      const at = y * 2 * fine.width + x * 2;
      const { data } = fine;
      coarse.data[y * coarse.width + x] =
        (data[at] + data[at + 1] + data[at + fine.width] + data[at + fine.width + 1]) / 4;
    }
  }
}
