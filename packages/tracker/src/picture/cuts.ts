import { COLUMNS, compare, ROWS } from './small-picture';

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

  /** @param now see `smallPicture`. @returns true when this picture doesn't go on from the one before. */
  next(now: Float32Array): boolean {
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
