import { startMediaTool } from './media-process';
import { safeInput } from './media-safety';
import { FootageError } from './probe';
import { rawFrames } from './raw-frames';

/** Samples a second that sound is read with: voices, steps and claps are told well enough. */
export const SOUND_RATE = 8000;

/** Samples of a hundredth of a second. */
const BLOCK = SOUND_RATE / 100;

/** Reads a clip's sound as one channel of samples −1 … 1, in blocks of a hundredth of a second. Nothing comes of a clip without sound. */
export async function* readSound(path: string, signal?: AbortSignal): AsyncGenerator<Float32Array> {
  const child = startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', ...safeInput(path), '-map', '0:a:0', '-vn'],
      ...['-ac', '1', '-ar', String(SOUND_RATE), '-f', 's16le', 'pipe:1'],
    ],
    ['ignore', 'pipe', 'ignore'],
  );
  try {
    for await (const bytes of rawFrames(child, BLOCK * 2, signal)) {
      const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      yield Float32Array.from({ length: BLOCK }, (_, i) => view.getInt16(i * 2, true) / 32768);
    }
  } catch (error) {
    if (!(error instanceof FootageError)) throw error;
  }
}

/** Samples of a part of a clip's sound; fewer where it ends before, none where there is no sound. @param from, seconds of the clip. */
export async function readSamples(
  path: string,
  from: number,
  seconds: number,
  signal?: AbortSignal,
): Promise<Float32Array> {
  const [first, most] = [from, seconds].map((time) => Math.round(time * SOUND_RATE));
  const out = new Float32Array(most);
  let [at, filled] = [0, 0];
  for await (const block of readSound(path, signal)) {
    const part = block.subarray(Math.max(0, first - at), Math.max(0, Math.min(block.length, first + most - at)));
    out.set(part, filled);
    filled += part.length;
    at += block.length;
    if (at >= first + most) break;
  }
  return out.subarray(0, filled);
}

/** The loudest sample of each hundredth of a second, 0 … 255. */
export async function loudness(path: string, signal?: AbortSignal): Promise<Uint8Array> {
  const peaks: number[] = [];
  for await (const block of readSound(path, signal))
    peaks.push(Math.min(255, Math.round(255 * block.reduce((most, value) => Math.max(most, Math.abs(value)), 0))));
  return Uint8Array.from(peaks);
}
