import { spawn, type ChildProcess } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { PassThrough } from 'node:stream';
import type { Picture } from '../picture/picture';
import { safeInput } from './media-safety';
import { FootageError } from './probe';

export interface FrameSource {
  path: string;
  width: number;
  height: number;
  rate: number;
  /** First frame and count at the constant rate; the whole clip if left out. */
  first?: number;
  count?: number;
  /** Frames lie at even distances, so that a place can be sought; else everything before it is decoded. */
  even?: boolean;
}

/** Every decoded picture once, three bytes for each pixel, to the pipe. */
const RAW_PICTURES = ['-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'];

/** How far before a frame's own time it is sought, in frames: more than what containers round times by. */
const SEEK_EARLY = 0.25;

/**
 * Decodes a clip at a constant rate, upright. Pictures are valid until the next but one is asked for.
 * @throws FootageError when the decoder stops with an error before any frame was read.
 */
export async function* readFrames(source: FrameSource, signal?: AbortSignal): AsyncGenerator<Picture> {
  const { path, width, height, rate, first = 0, count, even } = source;
  const seek = even && first > 0 ? ['-ss', ((first - SEEK_EARLY) / rate).toFixed(6)] : [];
  const trim = !even && first > 0 ? `trim=start_frame=${first},` : '';
  const child = spawn(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-threads',
      '1',
      ...seek,
      ...safeInput(path),
      '-map',
      '0:v:0',
      '-an',
      '-vf',
      `fps=${rate},${trim}scale=${width}:${height}:flags=bilinear`,
      ...(count === undefined ? [] : ['-frames:v', String(count)]),
      ...RAW_PICTURES,
    ],
    { stdio: ['ignore', 'pipe', 'pipe'] },
  );
  yield* rawPictures(child, width, height, signal);
}

/** The `.png` files of a folder in the order of their names. @throws FootageError when there are none. */
export async function pngFiles(folder: string): Promise<string[]> {
  const names = (await readdir(folder))
    .filter((name) => /\.png$/i.test(name))
    .sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
  if (names.length === 0) throw new FootageError('The folder holds no PNG pictures.');
  return names.map((name) => join(folder, name));
}

/** Decodes single PNG pictures as the frames of a clip; all must have the given size. */
export async function* readPngFrames(
  files: readonly string[],
  width: number,
  height: number,
  signal?: AbortSignal,
): AsyncGenerator<Picture> {
  const child = spawn(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-f',
      'image2pipe',
      '-c:v',
      'png',
      '-i',
      'pipe:0',
      '-vf',
      `scale=${width}:${height}`,
      ...RAW_PICTURES,
    ],
    { stdio: ['pipe', 'pipe', 'pipe'] },
  );
  const joined = new PassThrough();
  const feed = async (): Promise<void> => {
    for (const file of files)
      for await (const chunk of createReadStream(file))
        if (!joined.write(chunk)) await new Promise((resolve) => joined.once('drain', resolve));
    joined.end();
  };
  const feeding = Promise.all([feed(), child.stdin ? pipeline(joined, child.stdin) : null]).catch(() => undefined);
  yield* rawPictures(child, width, height, signal);
  await feeding;
}

async function* rawPictures(
  child: ChildProcess,
  width: number,
  height: number,
  signal?: AbortSignal,
): AsyncGenerator<Picture> {
  const size = width * height * 3;
  const buffers = [new Uint8Array(size), new Uint8Array(size)];
  let complaint = '';
  let count = 0;
  let filled = 0;
  child.stderr?.on('data', (data: Buffer) => {
    if (complaint.length < 4000) complaint += data.toString();
  });
  const closed = new Promise<void>((resolve) => child.on('close', () => resolve()));
  const missing = new Promise<never>((_, reject) =>
    child.on('error', (error) => reject(new Error(`ffmpeg can't be started (${error.message}).`))),
  );
  missing.catch(() => undefined);
  const stop = (): void => void child.kill('SIGKILL');
  signal?.addEventListener('abort', stop, { once: true });
  try {
    for await (const chunk of child.stdout as AsyncIterable<Buffer>) {
      let at = 0;
      while (at < chunk.length) {
        const take = Math.min(size - filled, chunk.length - at);
        buffers[count % 2].set(chunk.subarray(at, at + take), filled);
        filled += take;
        at += take;
        if (filled === size) {
          filled = 0;
          yield { width, height, data: buffers[count++ % 2] };
        }
      }
    }
    await Promise.race([closed, missing]);
    if (count === 0 && !signal?.aborted)
      throw new FootageError(
        `No picture could be decoded from the file${complaint ? ` (${complaint.trim().split('\n')[0]})` : ''}.`,
      );
  } finally {
    stop();
    signal?.removeEventListener('abort', stop);
  }
}
