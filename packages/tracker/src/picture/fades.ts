import { compare } from './small-picture';

/** Lengths of fades that are looked for, with calm pictures at both ends, in pictures of some 30 a second. */
const LENGTHS = [10, 14, 20, 28, 36];
/** Pictures at each end that must be nearly all of the first or of the second, … */
const CALM = 3;
const NEARLY_ALL = 0.93;
/** … how much of a picture amid a fade the two must explain, … */
const EXPLAINED = 0.9;
/** … and how unlike they must be: correlation. */
const UNLIKE = 0.6;
/** A picture with less contrast than this part of the others' is black, white or grey, and explained by that. */
const NO_CONTRAST = 0.15;
/** The contrast of either against the other's, at least. */
const LEAST_CONTRAST = 0.25;

/**
 * Notices fades from one picture to another, one over the other or through black: pictures amid it are sums of the first and the second
 * one, ever less of the first and ever more of the second. A moving camera's are not.
 */
export class FadeWatch {
  private readonly pictures: Float32Array[] = [];
  private readonly stride: number;
  private count = 0;

  constructor(rate: number) {
    this.stride = Math.max(1, Math.round(rate / 30));
  }

  /** Forgets what was, as after a hard cut. */
  reset(): void {
    this.pictures.length = 0;
  }

  /** @param now see `smallPicture`. @returns how many pictures ago a fade began that has ended with this one; 0 where none has. */
  next(now: Float32Array): number {
    if (this.count++ % this.stride !== 0) return 0;
    this.pictures.push(now);
    const most = LENGTHS[LENGTHS.length - 1];
    if (this.pictures.length > most + 1) this.pictures.shift();
    for (const length of LENGTHS) {
      if (this.pictures.length <= length) break;
      const part = this.pictures.slice(-length - 1);
      const begin = compare(part[0], part[length]).like > UNLIKE ? 0 : beginningOfFade(part);
      if (begin === 0) continue;
      this.pictures.splice(0, this.pictures.length - 1);
      return (length - begin) * this.stride;
    }
    return 0;
  }
}

/** Which picture is the first that is no more wholly the first one, where all between are sums of the first and the last; 0 where they are not. */
function beginningOfFade(pictures: readonly Float32Array[]): number {
  let begin = 0;
  const [first, last] = [pictures[0], pictures[pictures.length - 1]].map(centred);
  const [aa, bb, ab] = [dot(first, first), dot(last, last), dot(first, last)];
  const determinant = aa * bb - ab * ab;
  // Black is no second picture, but what lies between two.
  if (Math.min(aa, bb) < LEAST_CONTRAST ** 2 * Math.max(aa, bb) || !(determinant > 1e-6 * aa * bb)) return 0;
  for (let i = 1; i < pictures.length - 1; i++) {
    const now = centred(pictures[i]);
    const [square, a, b] = [dot(now, now), dot(now, first), dot(now, last)];
    const ofFirst = (a * bb - b * ab) / determinant;
    const ofLast = (b * aa - a * ab) / determinant;
    if (ofFirst < NEARLY_ALL) begin ||= i;
    if (i <= CALM && begin > 0) return 0;
    if (i >= pictures.length - 1 - CALM && ofLast < NEARLY_ALL) return 0;
    if (square < NO_CONTRAST ** 2 * Math.min(aa, bb)) continue;
    if (ofFirst * a + ofLast * b < EXPLAINED * square) return 0;
  }
  return begin;
}

function centred(picture: Float32Array): Float64Array {
  const mean = picture.reduce((sum, value) => sum + value, 0) / picture.length;
  return Float64Array.from(picture, (value) => value - mean);
}

function dot(a: Float64Array, b: Float64Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += a[i] * b[i];
  return sum;
}
