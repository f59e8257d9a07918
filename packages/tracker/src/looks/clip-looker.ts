import { faceHeight, outsideOf, wayBetween } from '@merry-shadow/core/judge/body-look';
import { emptyLooks, FRAMED_PARTS, type Looks } from '@merry-shadow/core/judge/looks';
import { emptyBodyObservations, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { posesHeld } from '@merry-shadow/core/solve/body/calibration-pose';
import { boxRound, type Box } from '../background/box';
import { BodyTracker, type TrackedBody } from '../body/body-tracker';
import { people, sightingSize } from '../people/associate';
import { PeopleScan } from '../people/scan';
import type { Picture } from '../picture/picture';
import type { BodyNets } from '../runtime/net';
import { bodyLight, edgeWidth, limbContrast } from './body-measures';
import { brightness, noiseLevel } from './picture-measures';

/** People are counted at every so manieth look. */
const COUNT_EVERY = 3;
/** … and at every other count in parts of the picture, too, where people farther back are found; while nobody is seen, which takes thirty times as long, only at the first ones. */
const CLOSE_EVERY = 6;
/** What crops may leave out at the edges of a picture, as a part of one: half as many looks at a wide picture. */
const SPARE = 0.13;
const SEARCHED = 6;

type Clip = Pick<Looks, 'width' | 'height' | 'rate' | 'frames'>;

/** Looks at single frames of a clip, in their order, and measures what footage is judged by. */
export class ClipLooker {
  readonly looks: Looks;
  private readonly tracker: BodyTracker;
  private readonly scan: PeopleScan;
  private readonly bodies: (TrackedBody | null)[] = [];
  private before = 0;
  /** Height of somebody so small that nothing else can be told of them, pixels. */
  private small: number | null = null;

  /** @param clip rate and frames of the clip; the size of the pictures that are looked at. */
  constructor(nets: BodyNets, clip: Clip) {
    this.looks = emptyLooks(clip);
    this.tracker = new BodyTracker(nets, { quick: true });
    this.scan = new PeopleScan(nets, SPARE);
  }

  /** @param frame of the clip. */
  async next(picture: Picture, frame: number): Promise<void> {
    const { looks } = this;
    const first = looks.at.length === 0;
    const seconds = first ? 1 / looks.rate : (frame - this.before) / looks.rate;
    this.before = frame;
    const body = await this.tracker.next(picture, seconds);
    const index = looks.at.length;
    const close = index % CLOSE_EVERY === 0 && (body !== null || index <= SEARCHED);
    const seen = index % COUNT_EVERY === 0 ? people(await this.scan.look(picture, frame, close), picture) : [];
    if (body) this.small = null;
    else if (close) this.small = seen.length > 0 ? rounded(sightingSize(seen[0]), 0) : null;
    looks.at.push(frame);
    // Between two close counts there are as many as at the last one.
    const known = close ? 0 : (looks.people.at(-1) ?? 0);
    looks.people.push(Math.max(body || this.small !== null ? 1 : 0, seen.length, known));
    looks.light.push(rounded(brightness(picture), 1));
    looks.noise.push(rounded(noiseLevel(picture), 2));
    this.measureBody(picture, body, seconds);
    looks.camera.push(null);
    this.bodies.push(body);
  }

  /** All that was measured; poses are told at the end. */
  finish(): Looks {
    const { looks, bodies } = this;
    const spacing = looks.at.length > 1 ? (looks.at[looks.at.length - 1] - looks.at[0]) / (looks.at.length - 1) : 1;
    const seen = emptyBodyObservations(bodies.length, looks.rate / spacing, looks.width, looks.height);
    bodies.forEach((body, i) => {
      if (!body) return;
      seen.marks.set(body.marks, i * MARK_COUNT * 3);
      seen.world.set(body.world, i * MARK_COUNT * 3);
      seen.presence[i] = body.presence;
    });
    looks.pose = posesHeld(seen).map((kind, i) => (bodies[i] ? ['', 'T', 'A'].indexOf(kind ?? '') : null));
    return looks;
  }

  private measureBody(picture: Picture, body: TrackedBody | null, seconds: number): void {
    const { looks } = this;
    const tall = body && 2 * Math.hypot(body.guides[2] - body.guides[0], body.guides[3] - body.guides[1]);
    looks.tall.push(tall ? rounded(tall, 0) : this.small);
    for (const part of FRAMED_PARTS) looks.outside[part].push(body && rounded(outsideOf(body.marks, part, picture), 2));
    const before = this.bodies.at(-1);
    looks.moves.push(before && body && tall ? rounded(wayBetween(before.marks, body.marks) / tall / seconds, 3) : null);
    const shown = body && tall ? { marks: body.marks, tall } : null;
    const light = shown && bodyLight(picture, shown);
    looks.bodyLight.push(light && rounded(light.light, 1));
    looks.burnt.push(light && rounded(light.burnt, 3));
    looks.blur.push(shown && rounded(edgeWidth(picture, shown), 5));
    looks.contrast.push(shown && rounded(limbContrast(picture, shown), 1));
    looks.face.push(body && rounded(faceHeight(body.marks, body.world), 1));
  }

  /** Where people are near a frame: at the looks before and after it. */
  boxesNear(frame: number): Box[] {
    const after = this.looks.at.findIndex((at) => at >= frame);
    const last = this.bodies.length - 1;
    const near = after < 0 ? [last] : [Math.max(0, after - 1), after];
    return near.flatMap((look) => {
      const body = this.bodies[look];
      return body ? [boxRound(body.marks)] : [];
    });
  }
}

const rounded = <T extends number | null>(value: T, digits: number): T =>
  (value === null ? null : Number(value.toFixed(digits))) as T;
