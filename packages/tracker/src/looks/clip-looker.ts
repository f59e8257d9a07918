import type { CameraMotion } from '@merry-shadow/core/camera/camera-motion';
import { faceHeight, outsideOf } from '@merry-shadow/core/judge/body-look';
import { emptyLooks, FRAMED_PARTS, type Looks } from '@merry-shadow/core/judge/looks';
import { emptyBodyObservations, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { posesHeld } from '@merry-shadow/core/solve/body/calibration-pose';
import { BackgroundWatch } from '../background/background-watch';
import { boxRound } from '../background/box';
import { BodyTracker, type TrackedBody } from '../body/body-tracker';
import { PeopleScan } from '../people/scan';
import type { Picture } from '../picture/picture';
import type { BodyNets } from '../runtime/net';
import { bodyLight, edgeWidth, limbContrast } from './body-measures';
import { blockSteps, brightness, noiseLevel } from './picture-measures';

/** People are counted at every so manieth look. */
const COUNT_EVERY = 3;

type Clip = Pick<Looks, 'width' | 'height' | 'rate' | 'frames'>;

/** Looks at single frames of a clip, in their order, and measures what footage is judged by. */
export class ClipLooker {
  readonly looks: Looks;
  private readonly tracker: BodyTracker;
  private readonly scan: PeopleScan;
  private readonly background: BackgroundWatch;
  private readonly bodies: (TrackedBody | null)[] = [];
  private before = 0;

  /** @param clip rate and frames of the clip; the size of the pictures that are looked at. */
  constructor(nets: BodyNets, clip: Clip) {
    this.looks = emptyLooks(clip);
    this.tracker = new BodyTracker(nets, { quick: true });
    this.scan = new PeopleScan(nets);
    this.background = new BackgroundWatch(clip.width, clip.height);
  }

  /** @param frame of the clip. */
  async next(picture: Picture, frame: number): Promise<void> {
    const { looks } = this;
    const first = looks.at.length === 0;
    const seconds = first ? 1 / looks.rate : (frame - this.before) / looks.rate;
    this.before = frame;
    const body = await this.tracker.next(picture, seconds);
    const counted = looks.at.length % COUNT_EVERY === 0;
    const seen = counted ? (await this.scan.look(picture, frame, false)).length : null;
    looks.at.push(frame);
    // Between two counts there are as many as at the last one.
    looks.people.push(Math.max(body ? 1 : 0, seen ?? looks.people.at(-1) ?? 0));
    looks.light.push(rounded(brightness(picture), 1));
    looks.noise.push(rounded(noiseLevel(picture), 2));
    looks.blocks.push(rounded(blockSteps(picture), 3));
    this.measureBody(picture, body);
    this.measureCamera(picture, body, seconds);
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

  private measureBody(picture: Picture, body: TrackedBody | null): void {
    const { looks } = this;
    const tall = body && 2 * Math.hypot(body.guides[2] - body.guides[0], body.guides[3] - body.guides[1]);
    looks.tall.push(tall && rounded(tall, 0));
    for (const part of FRAMED_PARTS) looks.outside[part].push(body && rounded(outsideOf(body.marks, part, picture), 2));
    const shown = body && tall ? { marks: body.marks, tall } : null;
    const light = shown && bodyLight(picture, shown);
    looks.bodyLight.push(light && rounded(light.light, 1));
    looks.burnt.push(light && rounded(light.burnt, 3));
    looks.blur.push(shown && rounded(edgeWidth(picture, shown), 5));
    looks.contrast.push(shown && rounded(limbContrast(picture, shown), 1));
    looks.face.push(body && rounded(faceHeight(body.marks, body.world), 1));
  }

  private measureCamera(picture: Picture, body: TrackedBody | null, seconds: number): void {
    const { looks } = this;
    const told = this.background.next(picture, body ? [boxRound(body.marks)] : []);
    looks.camera.push(null);
    // A movement that is proven only now belongs to earlier looks, too.
    told.forEach((motion, i) => {
      const look = looks.camera.length - told.length + i;
      if (look >= 0) looks.camera[look] = rounded(speedOf(motion, picture, seconds), 5);
    });
  }
}

/** How fast the camera moved: parts of the picture's long side in a second; null where it is not told. */
function speedOf(
  [right, down, turn, growth]: CameraMotion,
  { width, height }: Picture,
  seconds: number,
): number | null {
  if (!Number.isFinite(right)) return null;
  const shift = Math.hypot(right, down) / Math.max(width, height);
  return (shift + (Math.abs(turn) + Math.abs(growth)) / 2) / seconds;
}

const rounded = <T extends number | null>(value: T, digits: number): T =>
  (value === null ? null : Number(value.toFixed(digits))) as T;
