import { gaussianColumns } from '../signal/gaussian';
import { smoothStep } from '../motion/turns-from-axes';

/** What is calm is smoothed over so many seconds, what moves fast over so many (standard deviations). */
const CALM = 0.14;
const FAST = 0.045;
/** Differences between both from which on a move counts as fast, radians (halves of them in turns). */
const MOVES = [0.06, 0.22] as const;

/**
 * Smooths angles or turns with a window that grows narrow where they move fast, so that shaking goes and gestures stay: a blend of two Gaussians
 * by how much they differ.
 * @returns new columns; turns are of length one again.
 */
export function settleColumns(columns: Float32Array, width: number, rate: number): Float32Array {
  const calm = gaussianColumns(columns, width, CALM * rate);
  const fast = gaussianColumns(columns, width, FAST * rate);
  const turns = width === 4;
  const frames = columns.length / width;
  const share = new Float32Array(frames);
  for (let frame = 0; frame < frames; frame++) {
    let most = 0;
    for (let c = 0; c < width; c++)
      most = Math.max(most, Math.abs(calm[frame * width + c] - fast[frame * width + c]) * (turns ? 2 : 1));
    share[frame] = smoothStep(...MOVES, most);
  }
  const eased = gaussianColumns(share, 1, FAST * rate);
  const out = new Float32Array(columns.length);
  for (let frame = 0; frame < frames; frame++) {
    const part = Math.min(1, Math.max(0, eased[frame]));
    let length = 0;
    for (let c = 0; c < width; c++) {
      const at = frame * width + c;
      out[at] = calm[at] + part * (fast[at] - calm[at]);
      length += out[at] ** 2;
    }
    if (turns) for (let c = 0; c < 4; c++) out[frame * 4 + c] /= Math.sqrt(length) || 1;
  }
  return out;
}
