import { readFile } from 'node:fs/promises';
import type { Looks } from '@merry-shadow/core/judge/looks';
import { CameraSpeed } from '../looks/camera-speed';
import { ClipLooker } from '../looks/clip-looker';
import { frameChanges } from '../looks/frame-changes';
import type { BodyNets } from '../runtime/net';
import type { Picture } from '../picture/picture';
import { readFrames } from './frames';
import { readKeyFrames } from './key-frames';

/** A prepared clip: its video, whose key frames lie close to each other, and the small pictures of all its frames. */
export interface LookSource {
  path: string;
  /** File of 32 × 18 grey levels of two bytes for each frame; null where none was made. */
  small: string | null;
  width: number;
  height: number;
  rate: number;
  frames: number;
  /** Bits that the original file spends on a pixel of a frame; null where that is not known. */
  bitsPerPixel: number | null;
}

/** A look a second in the first seconds and fewer after them, and at least in all where there are so many key frames. */
const FIRST_SECONDS = 20;
const AFTER_THEM = 0.75;
const MOST_LOOKS = 1500;
const LEAST_LOOKS = 8;
/** The camera is watched for so long, so many pictures a second, once in so many seconds, in pictures so wide at most. */
const WATCH = { seconds: 1.2, rate: 15, every: 12, most: 40, long: 480 };

/** Measures what a clip is judged by, a few looks a second. An aborted look gives what it has. */
export async function lookAtClip(nets: BodyNets, source: LookSource, signal?: AbortSignal): Promise<Looks> {
  const { rate, frames, small } = source;
  const looker = new ClipLooker(nets, source);
  const seconds = frames / rate;
  const asked = Math.min(FIRST_SECONDS, seconds) + AFTER_THEM * Math.max(0, seconds - FIRST_SECONDS);
  const wanted = Math.min(MOST_LOOKS, Math.max(LEAST_LOOKS, Math.round(asked)));
  const watches = Math.min(WATCH.most, Math.max(1, Math.round(seconds / WATCH.every)));
  // Decoded while the looks are taken.
  let next = readWatch(source, 0, watches, signal);
  next.catch(() => undefined);
  for await (const { picture, frame } of readKeyFrames(source, wanted, signal)) {
    if (signal?.aborted) break;
    await looker.next(picture, frame);
  }
  const pictures = small === null ? null : await readFile(small).catch(() => null);
  const changes = pictures ? frameChanges(pictures, rate) : null;
  const looks = { ...looker.finish(), ...changes, bitsPerPixel: source.bitsPerPixel };
  for (let index = 0; index < watches && !signal?.aborted; index++) {
    const watch = await next;
    if (index + 1 < watches) next = readWatch(source, index + 1, watches, signal);
    const speed = cameraSpeed(source, watch, looker);
    looks.at.forEach((frame, look) => {
      if (frame >= watch.from && frame < watch.until) looks.camera[look] = speed;
    });
  }
  return looks;
}

/** Pictures that follow each other closely, and the frames that they stand for. */
interface Watch {
  from: number;
  until: number;
  first: number;
  /** Frames from one picture to the next. */
  step: number;
  pictures: Picture[];
}

async function readWatch(source: LookSource, index: number, watches: number, signal?: AbortSignal): Promise<Watch> {
  const { frames, rate } = source;
  const scale = Math.min(1, WATCH.long / Math.max(source.width, source.height));
  const [width, height] = [source.width, source.height].map((side) => Math.max(2, Math.round((side * scale) / 2) * 2));
  const [from, until] = [index, index + 1].map((part) => Math.round((part / watches) * frames));
  const count = Math.min(until - from, Math.ceil(WATCH.seconds * rate));
  const first = Math.floor((from + until - count) / 2);
  const step = Math.max(1, Math.round(rate / WATCH.rate));
  const pictures: Picture[] = [];
  let at = 0;
  const part = { path: source.path, width, height, rate, even: true, first, count, ahead: count };
  for await (const picture of readFrames(part, signal))
    if (at++ % step === 0) pictures.push({ ...picture, data: picture.data.slice() });
  return { from, until, first, step, pictures };
}

/** Parts of the long side in a second; null where it can't be told. */
function cameraSpeed({ rate, width }: LookSource, { first, step, pictures }: Watch, looker: ClipLooker): number | null {
  if (pictures.length === 0) return null;
  const camera = new CameraSpeed(pictures[0].width, pictures[0].height);
  const scale = pictures[0].width / width;
  pictures.forEach((picture, i) => {
    const people = looker.boxesNear(first + i * step).map(({ left, top, right, bottom }) => ({
      left: left * scale,
      top: top * scale,
      right: right * scale,
      bottom: bottom * scale,
    }));
    camera.next(picture, people);
  });
  const speed = camera.speed(step / rate);
  return speed === null ? null : Number(speed.toFixed(5));
}
