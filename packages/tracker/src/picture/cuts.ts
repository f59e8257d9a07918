import type { Picture } from './picture';

const COLUMNS = 32;
const ROWS = 18;
/** Mean change of brightness between two frames that no movement makes, 0 … 255. */
const CUT = 45;

/** Notices hard cuts: a picture that is another one all over. */
export class CutWatch {
  private before: Float32Array | null = null;

  /** @returns true when this picture doesn't go on from the one before. */
  next({ width, height, data }: Picture): boolean {
    const now = new Float32Array(COLUMNS * ROWS);
    for (let row = 0; row < ROWS; row++) {
      for (let column = 0; column < COLUMNS; column++) {
        const at =
          (Math.floor(((row + 0.5) / ROWS) * height) * width + Math.floor(((column + 0.5) / COLUMNS) * width)) * 3;
        now[row * COLUMNS + column] = 0.3 * data[at] + 0.59 * data[at + 1] + 0.11 * data[at + 2];
      }
    }
    const { before } = this;
    this.before = now;
    if (!before) return false;
    let change = 0;
    for (let i = 0; i < now.length; i++) change += Math.abs(now[i] - before[i]) / now.length;
    return change > CUT;
  }
}
