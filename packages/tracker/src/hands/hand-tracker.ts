import { MARK } from '@merry-shadow/core/observe/body';
import { HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import type { Side } from '@merry-shadow/core/motion/humanoid';
import { cropRegion } from '../picture/crop';
import { regionToPicture, type Picture, type Region } from '../picture/picture';
import { steadyRegion } from '../picture/steady';
import type { HandNets } from '../runtime/net';
import { handRegionFromBody, handRegionFromRecrop } from './hand-region';

const MARKS_SIZE = 224;
const RECROP_SIZE = 256;
const SURE = 0.5;
/** A region that was only carried along must do better, else it is proposed anew. */
const HELD = 0.8;
const STEADY_WEIGHT = 0.5;
/** A hand whose wrist lies farther from the body's wrist mark, in sizes of the expected region, is another's. */
const FARTHEST_WRIST = 0.25;
/** Frames for which a held hand's region goes along with its palm before it is proposed anew. */
const RECROP_EVERY = 3;

/** One hand in one frame. */
export interface TrackedHand {
  presence: number;
  /** 21 × 2, pixels. */
  marks: Float32Array;
  /** 21 × 3, metres round the hand's middle, +X right in the picture, +Y up, +Z to the camera. */
  world: Float32Array;
}

/** Where the region lay against the palm when it was proposed. */
interface Hold {
  region: Region;
  palm: Palm;
  age: number;
}

/** Middle and direction of the palm in the picture. */
interface Palm {
  x: number;
  y: number;
  angle: number;
}

/**
 * Reads one hand beside a body: region from the body's marks → re-crop → 21 marks. While a hand is
 * held, its region goes along with its palm and the re-crop network is asked only now and then.
 */
export class HandTracker {
  private readonly wide = new Float32Array(RECROP_SIZE * RECROP_SIZE * 3);
  private readonly input = new Float32Array(MARKS_SIZE * MARKS_SIZE * 3);
  private hold: Hold | null = null;

  constructor(
    private readonly nets: HandNets,
    private readonly side: Side,
    private readonly plain = false,
  ) {}

  reset(): void {
    this.hold = null;
  }

  /**
   * @param body 33 × 3 marks of the same frame.
   * @returns null where the hand can't be seen.
   */
  async next(picture: Picture, body: ArrayLike<number>): Promise<TrackedHand | null> {
    const expected = handRegionFromBody(body, this.side);
    if (!(expected.size > 8) || outside(picture, expected)) return this.lose();
    const { hold } = this;
    if (hold && !this.plain && hold.age < RECROP_EVERY) {
      const followed = await this.read(picture, hold.region, body, expected, hold);
      if (followed) return followed;
    }
    const proposed = await this.propose(picture, expected);
    const region = hold && !this.plain ? steadyRegion(hold.region, proposed, STEADY_WEIGHT) : proposed;
    return (await this.read(picture, region, body, expected, null)) ?? this.lose();
  }

  /** Reads the marks in a region. @param hold whose region this is, or null where it was proposed anew. */
  private async read(
    picture: Picture,
    region: Region,
    body: ArrayLike<number>,
    expected: Region,
    hold: Hold | null,
  ): Promise<TrackedHand | null> {
    if (!(region.size > 4)) return null;
    const { handMarks } = this.nets;
    cropRegion(
      picture,
      region,
      { size: MARKS_SIZE, range: [0, 1], planar: handMarks.planar, border: 'edge' },
      this.input,
    );
    const [values, [presence], world] = await handMarks.run(this.input);
    if (!(presence > (hold ? HELD : SURE))) return null;
    const marks = new Float32Array(HAND_MARK_COUNT * 2);
    for (let i = 0; i < HAND_MARK_COUNT; i++)
      marks.set(regionToPicture(region, values[i * 3] / MARKS_SIZE, values[i * 3 + 1] / MARKS_SIZE), i * 2);
    const wrist = MARK[`${this.side}Wrist`] * 3;
    if (Math.hypot(body[wrist] - marks[0], body[wrist + 1] - marks[1]) > FARTHEST_WRIST * expected.size) return null;
    const palm = palmOf(marks);
    this.hold = { region: moveWith(region, hold?.palm ?? palm, palm), palm, age: hold ? hold.age + 1 : 1 };
    return { presence, marks, world: turnWorld(world, region.angle) };
  }

  private async propose(picture: Picture, first: Region): Promise<Region> {
    const { handRecrop } = this.nets;
    cropRegion(
      picture,
      first,
      { size: RECROP_SIZE, range: [0, 1], planar: handRecrop.planar, border: 'edge' },
      this.wide,
    );
    const [proposal] = await handRecrop.run(this.wide);
    return handRegionFromRecrop(proposal, first);
  }

  private lose(): null {
    this.hold = null;
    return null;
  }
}

function palmOf(marks: ArrayLike<number>): Palm {
  const knuckles = [5, 9, 13, 17];
  const x = knuckles.reduce((sum, i) => sum + marks[i * 2] / 4, 0);
  const y = knuckles.reduce((sum, i) => sum + marks[i * 2 + 1] / 4, 0);
  return { x: (x + marks[0]) / 2, y: (y + marks[1]) / 2, angle: Math.atan2(x - marks[0], marks[1] - y) };
}

/** Carries a region along with the palm. */
function moveWith(region: Region, before: Palm, now: Palm): Region {
  const turn = Math.atan2(Math.sin(now.angle - before.angle), Math.cos(now.angle - before.angle));
  return {
    x: region.x + now.x - before.x,
    y: region.y + now.y - before.y,
    size: region.size,
    angle: region.angle + turn,
  };
}

function outside(picture: Picture, region: Region): boolean {
  return region.x < 0 || region.y < 0 || region.x > picture.width || region.y > picture.height;
}

/** World points of a turned crop, upright again, in our axes. */
function turnWorld(world: Float32Array, angle: number): Float32Array {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const out = new Float32Array(HAND_MARK_COUNT * 3);
  for (let i = 0; i < HAND_MARK_COUNT; i++) {
    const [x, y, z] = [world[i * 3], world[i * 3 + 1], world[i * 3 + 2]];
    out.set([c * x - s * y, -(s * x + c * y), -z], i * 3);
  }
  return out;
}
