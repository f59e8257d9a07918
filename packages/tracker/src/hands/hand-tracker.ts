import { MARK } from '@merry-shadow/core/observe/body';
import { HAND_MARK_COUNT, KNUCKLES } from '@merry-shadow/core/observe/hands';
import type { Side } from '@merry-shadow/core/motion/humanoid';
import { cropRegion } from '../picture/crop';
import { regionToPicture, type Picture, type Region } from '../picture/picture';
import { steadyRegion } from '../picture/steady';
import type { ReadingRules } from '../reading-rules';
import type { HandNets } from '../runtime/net';
import { AS_IT_IS, croppedRegion, type HandCrop } from './hand-crop';
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
    private readonly rules: ReadingRules = {},
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
    if (hold && !this.rules.plain && hold.age < RECROP_EVERY) {
      const followed = await this.read(picture, hold.region, body, expected, hold);
      if (followed) return followed;
    }
    const proposed = await this.propose(picture, expected);
    const region = hold && !this.rules.plain ? steadyRegion(hold.region, proposed, STEADY_WEIGHT) : proposed;
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
    const { handCrop = AS_IT_IS, fine } = this.rules;
    const first = await this.look(picture, region, handCrop);
    if (!(first.presence > (hold ? HELD : SURE))) return null;
    const second = fine ? await this.look(picture, region, { ...handCrop, mirrored: !handCrop.mirrored }) : null;
    const hand = second && second.presence > SURE ? meanHand(first, second) : first;
    const { marks } = hand;
    const wrist = MARK[`${this.side}Wrist`] * 3;
    if (Math.hypot(body[wrist] - marks[0], body[wrist + 1] - marks[1]) > FARTHEST_WRIST * expected.size) return null;
    const palm = palmOf(marks);
    this.hold = { region: moveWith(region, hold?.palm ?? palm, palm), palm, age: hold ? hold.age + 1 : 1 };
    return hand;
  }

  private async look(picture: Picture, region: Region, crop: HandCrop): Promise<TrackedHand> {
    const { handMarks } = this.nets;
    const { mirrored } = crop;
    const square = croppedRegion(region, crop);
    cropRegion(
      picture,
      square,
      { size: MARKS_SIZE, range: [0, 1], planar: handMarks.planar, border: 'edge', mirrored },
      this.input,
    );
    const [values, [presence], world] = await handMarks.run(this.input);
    const marks = new Float32Array(HAND_MARK_COUNT * 2);
    for (let i = 0; i < HAND_MARK_COUNT; i++) {
      const [u, v] = [values[i * 3] / MARKS_SIZE, values[i * 3 + 1] / MARKS_SIZE];
      marks.set(regionToPicture(square, mirrored ? 1 - u : u, v), i * 2);
    }
    return { presence, marks, world: turnWorld(world, square.angle, mirrored) };
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

/** The mean of two looks at the same hand. */
function meanHand(a: TrackedHand, b: TrackedHand): TrackedHand {
  const mean = (p: Float32Array, q: Float32Array): Float32Array => p.map((value, i) => (value + q[i]) / 2);
  return {
    presence: (a.presence + b.presence) / 2,
    marks: mean(a.marks, b.marks),
    world: mean(a.world, b.world),
  };
}

function palmOf(marks: ArrayLike<number>): Palm {
  const x = KNUCKLES.reduce((sum, i) => sum + marks[i * 2] / 4, 0);
  const y = KNUCKLES.reduce((sum, i) => sum + marks[i * 2 + 1] / 4, 0);
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

/** World points of a turned crop, upright again, in our axes. @param mirrored whether it shows them as a mirror does. */
function turnWorld(world: Float32Array, angle: number, mirrored: boolean): Float32Array {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  const out = new Float32Array(HAND_MARK_COUNT * 3);
  for (let i = 0; i < HAND_MARK_COUNT; i++) {
    const [x, y, z] = [mirrored ? -world[i * 3] : world[i * 3], world[i * 3 + 1], world[i * 3 + 2]];
    out.set([c * x - s * y, -(s * x + c * y), -z], i * 3);
  }
  return out;
}
