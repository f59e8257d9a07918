import { mat3 } from 'gl-matrix';
import { swayFocal, swayMap, swayOf, type Sway } from '@merry-shadow/core/camera/sway';
import type { Picture } from '../picture/picture';
import { emptyLevels, fillLevels, type GreyLevel } from './grey-levels';
import { registerLevel, tellingPoints, type TellingPoints } from './register';

/** A rectangle of the picture in which somebody moves, pixels. */
export interface Box {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** How far people reach beyond their marks, parts of the marks' own extent. */
const BEYOND = 0.12;

/** The rectangle round a performer's marks (x, y, visibility), with room for what the marks don't reach. */
export function boxRound(marks: ArrayLike<number>): Box {
  const box = { left: Infinity, top: Infinity, right: -Infinity, bottom: -Infinity };
  for (let i = 0; i < marks.length; i += 3) {
    box.left = Math.min(box.left, marks[i]);
    box.right = Math.max(box.right, marks[i]);
    box.top = Math.min(box.top, marks[i + 1]);
    box.bottom = Math.max(box.bottom, marks[i + 1]);
  }
  const more = BEYOND * Math.max(box.right - box.left, box.bottom - box.top);
  return { left: box.left - more, top: box.top - more, right: box.right + more, bottom: box.bottom + more };
}

/** Another frame is compared with once the picture has moved by this share of its long side, or turned or grown by so much. */
const MOVED = 0.08;
const TURNED = 0.05;
const GROWN = 0.05;
/** Points that must be told alike for a movement to be believed, and how alike: correlation of their brightness. */
const LEAST_POINTS = 40;
const LEAST_ALIKE = 0.6;
/** Steps on each level at most, the finest first. */
const STEPS = [3, 3, 5];

const STILL: Sway = [0, 0, 0, 0];

/**
 * Tells from what stands still in the pictures how the camera moved: each picture is laid over a key frame by
 * Gauss–Newton steps on its brightness, coarse to fine (inverse compositional alignment, S. Baker and I. Matthews,
 * "Lucas-Kanade 20 years on", IJCV 56, 2004), with people left out and what moves otherwise counting less. Key
 * frames are kept as long as they will do, so that errors don't add up frame by frame.
 */
export class BackgroundWatch {
  private readonly focal: number;
  private readonly levels: GreyLevel[];
  /** What the key frame is told by, level by level. */
  private key: TellingPoints[] | null = null;
  /** From the key frame to the frame before. */
  private before: mat3 = mat3.create();

  constructor(width: number, height: number) {
    this.focal = swayFocal(width, height);
    this.levels = emptyLevels(width, height);
  }

  /**
   * @param people where people are in this picture or were in the last one.
   * @returns how the camera moved since the picture before; nothing where that can't be told (a cut, no texture).
   */
  next(picture: Picture, people: readonly Box[]): Sway {
    fillLevels(picture, this.levels);
    if (!this.key) return this.beginWith(people);
    const now = mat3.clone(this.before);
    let alike = 0;
    let count = 0;
    for (let i = this.levels.length - 1; i >= 0; i--)
      ({ alike, count } = registerLevel(this.levels[i], this.key[i], now, this.focal, people, STEPS[i]));
    if (count < LEAST_POINTS || alike < LEAST_ALIKE) return this.beginWith(people);
    const back = mat3.invert(mat3.create(), this.before) as mat3;
    const sway = swayOf(mat3.multiply(mat3.create(), now, back), this.focal);
    this.before = now;
    const [right, down, turn, growth] = swayOf(now, this.focal);
    const long = Math.max(picture.width, picture.height);
    if (Math.hypot(right, down) > MOVED * long || Math.abs(turn) > TURNED || Math.abs(growth) > GROWN)
      this.beginWith(people);
    return sway;
  }

  private beginWith(people: readonly Box[]): Sway {
    this.key = this.levels.map((level) => tellingPoints(level, this.focal, people));
    this.before = swayMap(STILL, this.focal);
    return STILL;
  }
}
