import { mat3 } from 'gl-matrix';
import {
  cameraMotionFocal,
  cameraMotionMap,
  cameraMotionOf,
  type CameraMotion,
} from '@merry-shadow/core/camera/camera-motion';
import type { Picture } from '../picture/picture';
import { emptyLevels, fillLevels, type GreyLevel } from './grey-levels';
import type { Box } from './box';
import { registerLevel, tellingPoints, type TellingPoints, type Told } from './register';
import { provesMovement, testCells, weighStillness, type TestCell } from './stillness';

/** Another frame is compared with once the picture has moved by this share of its long side, or turned or grown by so much. */
const MOVED = 0.08;
const TURNED = 0.05;
const GROWN = 0.05;
/** Points that must be told alike for a movement to be believed, and how alike: correlation of their brightness. */
const LEAST_POINTS = 40;
const LEAST_ALIKE = 0.6;
/** Frames without proof after which a camera rests again; of so many latest ones so many must prove that it has begun to move. */
const REST_FRAMES = 30;
const LATEST = 5;
const PROOFS = 3;
/** How firmly the picture must be held in all directions, and how far it must have moved, to prove anything. */
const FIRM = 0.1;
const LEAST_SHIFT = 0.004;
/** Steps on each level at most, the finest first. */
const STEPS = [3, 3, 5];

/** What later frames are compared with. */
interface KeyFrame {
  /** What it is laid over others by, level by level. */
  points: TellingPoints[];
  /** Its finest level, and the cells in which standing still is weighed against moving. */
  level: GreyLevel;
  cells: TestCell[];
}

const STILL: CameraMotion = [0, 0, 0, 0];
const UNTOLD: CameraMotion = [NaN, NaN, NaN, NaN];

/**
 * Tells from what stands still in the pictures how the camera moved: each picture is laid over a key frame by
 * Gauss–Newton steps on its brightness, coarse to fine (inverse compositional alignment, S. Baker and I. Matthews,
 * "Lucas-Kanade 20 years on", IJCV 56, 2004), with people left out and what moves otherwise counting less. Key
 * frames are kept as long as they will do, so that errors don't add up frame by frame.
 *
 * A camera stands still until the picture proves that it moves (`stillness.ts`): shadows, curtains, noise and light
 * that changes can be laid over a key frame, too, but leave all else where it was.
 */
export class BackgroundWatch {
  private readonly focal: number;
  private readonly long: number;
  private readonly levels: GreyLevel[];
  private key: KeyFrame | null = null;
  /** From the key frame to the frame before. */
  private before: mat3 = mat3.create();
  private moving = false;
  /** How firmly the last picture was held, see `registerLevel`. */
  private firm = 0;
  /** The last frames: how they would lie over the key frame, whether they prove that the camera moved, or speak for it at least. */
  private last: { map: mat3; proves: boolean; leans: boolean }[] = [];

  constructor(width: number, height: number) {
    this.focal = cameraMotionFocal(width, height);
    this.long = Math.max(width, height);
    this.levels = emptyLevels(width, height);
  }

  /**
   * @param people where people are in this picture or were in the last one.
   * @returns how the camera moved since the picture before, as the last entry; NaN where nothing in the picture tells it.
   * Where a movement is proven only now, the entries before it are those of the pictures before.
   */
  next(picture: Picture, people: readonly Box[]): CameraMotion[] {
    fillLevels(picture, this.levels);
    const now = this.register(people);
    if (!now || !this.key) {
      const known = this.key !== null && !this.moving;
      this.beginWith(people);
      return [known ? UNTOLD : STILL];
    }
    const weighed = weighStillness(this.levels[0], this.key.level, this.key.cells, now, this.focal, people);
    this.last.push({
      map: now,
      proves: this.firm >= FIRM && this.shift(now) >= LEAST_SHIFT && provesMovement(weighed),
      leans: weighed.moved > weighed.still,
    });
    if (this.last.length > REST_FRAMES) this.last.shift();
    if (!this.moving) {
      if (this.last.slice(-LATEST).filter(({ proves }) => proves).length >= PROOFS) return this.start();
      return [this.firm < FIRM ? UNTOLD : STILL];
    }
    const cameraMotion = this.moveTo(now);
    const [right, down, turn, growth] = cameraMotionOf(now, this.focal);
    if (!this.last.some(({ proves }) => proves)) {
      this.moving = false;
      this.beginWith(people);
    } else if (Math.hypot(right, down) > MOVED * this.long || Math.abs(turn) > TURNED || Math.abs(growth) > GROWN)
      this.beginWith(people);
    return [cameraMotion];
  }

  /** Forgets what was: another shot begins. */
  begin(): void {
    this.key = null;
    this.moving = false;
    this.last = [];
  }

  /** Lays the picture over the key frame. @returns null where it does not fit. */
  private register(people: readonly Box[]): mat3 | null {
    if (!this.key) return null;
    const last = this.last.at(-1);
    const now = mat3.clone(last?.leans ? last.map : this.before);
    let told: Told = { alike: 0, count: 0, firm: 0 };
    for (let i = this.levels.length - 1; i >= 0; i--)
      told = registerLevel(this.levels[i], this.key.points[i], now, this.focal, people, STEPS[i]);
    this.firm = told.firm;
    return told.count < LEAST_POINTS || told.alike < LEAST_ALIKE ? null : now;
  }

  /** How far a map moves the picture, at most, as a share of its long side. */
  private shift(map: mat3): number {
    const [right, down, turn, growth] = cameraMotionOf(map, this.focal);
    return Math.hypot(right, down) / this.long + (Math.abs(turn) + Math.abs(growth)) / 2;
  }

  /** The camera has begun to move: what it did since it last stood is told afterwards. */
  private start(): CameraMotion[] {
    this.moving = true;
    const stood = this.last.findLastIndex(({ leans }) => !leans);
    return this.last.slice(stood + 1).map(({ map }) => this.moveTo(map));
  }

  private moveTo(map: mat3): CameraMotion {
    const back = mat3.invert(mat3.create(), this.before) as mat3;
    this.before = map;
    return cameraMotionOf(mat3.multiply(mat3.create(), map, back), this.focal);
  }

  private beginWith(people: readonly Box[]): CameraMotion[] {
    const [finest] = this.levels;
    this.key = {
      points: this.levels.map((level) => tellingPoints(level, this.focal, people)),
      level: { ...finest, data: finest.data.slice() },
      cells: testCells(finest, people),
    };
    this.before = cameraMotionMap(STILL, this.focal);
    // A movement that was proven before goes on in the new frame; nothing else is known of it.
    this.last = this.moving ? [{ map: this.before, proves: true, leans: true }] : [];
    return [STILL];
  }
}
