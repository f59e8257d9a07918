import type { Picture } from './picture';

/** The picture in so many squares, and so many pixels of each that are asked, in a row. */
const COLUMNS = 32;
const ROWS = 18;
const ASKED = 4;
/** A cut changes the picture so much that it hardly correlates with the one before, whole and in its fine structure, … */
const LIKE = 0.89;
const FINELY_LIKE = 0.62;
/** … and so many times more than the pictures before it changed, brightness and contrast aside. */
const SUDDEN = 3;
/** Change that is never taken for sudden, grey levels. */
const CALM = 1;
/** With so few pictures before it, a cut must be plain: correlation. */
const LEAST_BEFORE = 4;
const UNLIKE = 0.6;
/** Pictures whose change tells what is usual. */
const LATEST = 12;

/**
 * Notices hard cuts: a picture that is all of a sudden another one. Each picture is made small and compared with the one
 * before by correlation, which knows nothing of brightness and contrast, and by how much of it the one before does not explain.
 */
export class CutWatch {
  private before: Float32Array | null = null;
  private readonly changes: number[] = [];

  /** @returns true when this picture doesn't go on from the one before. */
  next(picture: Picture): boolean {
    const now = small(picture);
    const { before } = this;
    this.before = now;
    if (!before) return false;
    const whole = compare(before, now);
    const usual = this.changes.toSorted((a, b) => a - b)[this.changes.length >> 1] ?? 0;
    const known = this.changes.length >= LEAST_BEFORE;
    this.changes.push(whole.change);
    if (this.changes.length > LATEST) this.changes.shift();
    if (!known) return whole.like < UNLIKE;
    if (whole.like > LIKE || whole.change < SUDDEN * Math.max(CALM, usual)) return false;
    if (compare(structure(before), structure(now)).like > FINELY_LIKE) return false;
    // The change of the cut itself is not what is usual in the new shot.
    this.changes.length = 0;
    return true;
  }
}

/** Mean brightness of each square. */
function small({ width, height, data }: Picture): Float32Array {
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

/** What is finer than a few squares. */
function structure(picture: Float32Array): Float32Array {
  const out = new Float32Array(picture.length);
  for (let row = 1; row < ROWS - 1; row++)
    for (let column = 1; column < COLUMNS - 1; column++) {
      const i = row * COLUMNS + column;
      const around = picture[i - 1] + picture[i + 1] + picture[i - COLUMNS] + picture[i + COLUMNS];
      out[i] = picture[i] - around / 4;
    }
  return out;
}

/** Correlation of two pictures, and the standard deviation of what the first does not explain of the second. */
function compare(a: Float32Array, b: Float32Array): { like: number; change: number } {
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
