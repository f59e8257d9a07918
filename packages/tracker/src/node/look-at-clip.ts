import { readFile } from 'node:fs/promises';
import type { Looks } from '@merry-shadow/core/judge/looks';
import { CameraSpeed } from '../looks/camera-speed';
import { ClipLooker } from '../looks/clip-looker';
import { frameChanges } from '../looks/frame-changes';
import type { BodyNets } from '../runtime/net';
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

/** Looks a second, fewer in long clips, and at least in all where there are so many key frames. */
const LOOKS_A_SECOND = 2;
const MOST_LOOKS = 1500;
const LEAST_LOOKS = 12;
/** The camera is watched for so long, so many pictures a second, once in so many seconds. */
const WATCH = { seconds: 1.2, rate: 10, every: 8, most: 40 };

/** Measures what a clip is judged by, a few looks a second. @param onProgress 0 … 1. */
export async function lookAtClip(
  nets: BodyNets,
  source: LookSource,
  options: { signal?: AbortSignal; onProgress?: (part: number) => void } = {},
): Promise<Looks> {
  const { width, height, rate, frames, small } = source;
  const looker = new ClipLooker(nets, source);
  const wanted = Math.min(MOST_LOOKS, Math.max(LEAST_LOOKS, Math.round((frames / rate) * LOOKS_A_SECOND)));
  for await (const { picture, frame } of readKeyFrames(source, wanted, options.signal)) {
    if (options.signal?.aborted) break;
    await looker.next(picture, frame);
    options.onProgress?.(frame / frames);
  }
  const pictures = small === null ? null : await readFile(small).catch(() => null);
  const changes = pictures ? frameChanges(pictures, rate) : null;
  const looks = { ...looker.finish(), ...changes, bitsPerPixel: source.bitsPerPixel };
  const step = Math.max(1, Math.round(rate / WATCH.rate));
  const places = Math.min(WATCH.most, Math.max(1, Math.round(frames / rate / WATCH.every)));
  for (let place = 0; place < places && !options.signal?.aborted; place++) {
    const [from, until] = [place, place + 1].map((part) => Math.round((part / places) * frames));
    const count = Math.min(until - from, Math.ceil(WATCH.seconds * rate));
    const first = Math.floor((from + until - count) / 2);
    const camera = new CameraSpeed(width, height);
    let index = 0;
    for await (const picture of readFrames({ ...source, even: true, first, count }, options.signal))
      if (index++ % step === 0) camera.next(picture, looker.boxesNear(first + index - 1));
    const speed = camera.speed(step / rate);
    looks.at.forEach((frame, look) => {
      if (frame >= from && frame < until) looks.camera[look] = speed === null ? null : Number(speed.toFixed(5));
    });
  }
  return looks;
}
