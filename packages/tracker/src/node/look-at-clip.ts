import { readFile } from 'node:fs/promises';
import type { Looks } from '@merry-shadow/core/judge/looks';
import { ClipLooker } from '../looks/clip-looker';
import { frameChanges } from '../looks/frame-changes';
import type { BodyNets } from '../runtime/net';
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
}

/** Looks a second, fewer in long clips, and at least in all where there are so many key frames. */
const LOOKS_A_SECOND = 2;
const MOST_LOOKS = 1500;
const LEAST_LOOKS = 12;

/** Measures what a clip is judged by, a few looks a second. @param onProgress 0 … 1. */
export async function lookAtClip(
  nets: BodyNets,
  { path, small, width, height, rate, frames }: LookSource,
  options: { signal?: AbortSignal; onProgress?: (part: number) => void } = {},
): Promise<Looks> {
  const looker = new ClipLooker(nets, { width, height, rate, frames });
  const wanted = Math.min(MOST_LOOKS, Math.max(LEAST_LOOKS, Math.round((frames / rate) * LOOKS_A_SECOND)));
  for await (const { picture, frame } of readKeyFrames({ path, width, height, rate }, wanted, options.signal)) {
    if (options.signal?.aborted) break;
    await looker.next(picture, frame);
    options.onProgress?.(frame / frames);
  }
  const looks = looker.finish();
  const pictures = small === null ? null : await readFile(small).catch(() => null);
  return pictures ? { ...looks, ...frameChanges(pictures, rate) } : looks;
}
