import { CAMERA_MOTION_WIDTH } from '@merry-shadow/core/camera/camera-motion';
import type { FaceGeometry } from '@merry-shadow/core/face/head-turn';
import {
  emptyObservations,
  sliceObservations,
  type CapturedParts,
  type Observations,
} from '@merry-shadow/core/observe/observations';
import { BackgroundWatch } from '../background/background-watch';
import { boxRound, type Box } from '../background/box';
import type { Guide } from '../people/guide';
import { PerformerTracker } from '../performer/performer-tracker';
import { recordFrame } from '../performer/record';
import type { ReadingRules } from '../reading-rules';
import { ShotWatch } from '../picture/shot-watch';
import { smallPicture } from '../picture/small-picture';
import type { Picture } from '../picture/picture';
import type { Nets } from '../runtime/net';

/** Frames that a segment reads before its first own one, so that its filters have settled. */
export const WARM_UP = 30;

export interface SegmentRun extends CapturedParts, ReadingRules {
  /** Pictures, the warm-up first. */
  frames: AsyncIterable<Picture>;
  warmUp: number;
  /** Own frames expected; the real count may be smaller where the clip ends early. */
  count: number;
  rate: number;
  width: number;
  height: number;
  /** Whom to follow, one entry for each performer; the most prominent person alone if left out. */
  guides?: readonly Guide[];
  /** Frame of the clip that the first picture is: what guides count in. */
  firstFrame?: number;
  geometry?: FaceGeometry;
  onFrame?: (done: number, observations: Observations[]) => void;
  signal?: AbortSignal;
}

export interface SegmentResult {
  /** One for each performer. */
  observations: Observations[];
  /** Seconds spent waiting for pictures, and reading them. */
  times: { decode: number; track: number };
  /** The detector's score wherever it had to look. */
  detections: number[];
}

/** Tracks one or several performers through one run of pictures. */
export async function trackSegment(nets: Nets, run: SegmentRun): Promise<SegmentResult> {
  const performers = (run.guides ?? [undefined]).map((guide) => ({
    tracker: new PerformerTracker(nets, { ...run, guide }),
    observations: emptyObservations(run.count, run.rate, run.width, run.height, run),
  }));
  const background = new BackgroundWatch(run.width, run.height);
  const shots = new ShotWatch(run.rate);
  const told = performers.map(({ observations }) => observations);
  const times = { decode: 0, track: 0 };
  const detections: number[] = [];
  let frame = -run.warmUp;
  let mark = performance.now();
  for await (const picture of run.frames) {
    if (run.signal?.aborted || frame >= run.count) break;
    const arrived = performance.now();
    times.decode += (arrived - mark) / 1000;
    const people: Box[] = [];
    for (const { tracker, observations } of performers) {
      const seen = await tracker.next(picture, 1 / run.rate);
      if (seen?.body) people.push(boxRound(seen.body.marks));
      if (!seen || frame < 0) continue;
      recordFrame(observations, frame, seen);
      if (seen.body && seen.body.detection !== null) detections.push(seen.body.detection);
    }
    const { begins, faded, doubled } = shots.next(smallPicture(picture));
    if (begins) {
      background.begin();
      if (frame >= 0) for (const { observations } of performers) observations.cut[frame] = 1;
    }
    // What lies amid a fade shows two moments at once, a doubled picture none of its own.
    const skipped = Math.max(faded, doubled);
    if (skipped > 0 && frame > 0)
      for (const { observations } of performers) observations.skipped.fill(1, Math.max(0, frame - skipped), frame);
    background.next(picture, people).forEach((cameraMotion, i, { length }) => {
      const of = frame + 1 - length + i;
      if (of >= 0)
        for (const { observations } of performers)
          observations.cameraMotion.set(cameraMotion, of * CAMERA_MOTION_WIDTH);
    });
    frame++;
    if (frame > 0) run.onFrame?.(frame, told);
    mark = performance.now();
    times.track += (mark - arrived) / 1000;
  }
  const count = Math.max(0, frame);
  return {
    observations: performers.map(({ observations }) =>
      count < run.count ? sliceObservations(observations, 0, count) : observations,
    ),
    times,
    detections,
  };
}
