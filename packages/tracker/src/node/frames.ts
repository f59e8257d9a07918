import type { ChildProcess } from 'node:child_process';
import { createReadStream } from 'node:fs';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { PassThrough } from 'node:stream';
import type { DepthMap } from '../depth/sample-depth';
import type { Picture } from '../picture/picture';
import { startMediaTool } from './media-process';
import { safeInput } from './media-safety';
import { FootageError } from './probe';
import { aheadOutput, rawFrames, rawOutput } from './raw-frames';

export interface FrameSource {
  path: string;
  /** Which of the file's streams; its first video if left out. */
  stream?: number;
  width: number;
  height: number;
  rate: number;
  /** First frame and count at the constant rate; the whole clip if left out. */
  first?: number;
  count?: number;
  /** Frames lie at even distances, so that a place can be sought; else everything before it is decoded. */
  even?: boolean;
  /** So many frames at most are decoded before they are asked for. */
  ahead?: number;
}

/** How far before a frame's own time it is sought, in frames: more than what containers round times by. */
const SEEK_EARLY = 0.25;

/**
 * Decodes a clip at a constant rate, upright. Pictures are valid until the next but one is asked for.
 * @throws FootageError when the decoder stops with an error before any frame was read.
 */
export async function* readFrames(source: FrameSource, signal?: AbortSignal): AsyncGenerator<Picture> {
  const { width, height } = source;
  const child = decode(source, `,scale=${width}:${height}:flags=bilinear`);
  yield* rawPictures(child, width, height, signal);
}

/**
 * Decodes the video of a depth camera, each map once: millimetres as they are in the file, in its own size. Maps are valid until the next but one is asked for.
 * @param from seconds of the file from which on maps are given. @param count of maps.
 * @throws FootageError as for `readFrames`.
 */
export async function* readDepthMaps(
  { path, stream, width, height }: Pick<FrameSource, 'path' | 'stream' | 'width' | 'height'>,
  from: number,
  count: number,
  signal?: AbortSignal,
): AsyncGenerator<DepthMap> {
  const child = startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', ...(from > 0 ? ['-ss', from.toFixed(6)] : [])],
      ...[...safeInput(path), '-map', `0:${stream ?? 'v:0'}`, '-an', '-frames:v', String(count)],
      ...rawOutput('gray16le'),
    ],
    ['ignore', 'pipe', 'pipe'],
  );
  for await (const data of rawFrames(child, width * height * 2, signal))
    yield { width, height, data: new Uint16Array(data.buffer, data.byteOffset, width * height) };
}

function decode({ path, stream, rate, first = 0, count, even, ahead }: FrameSource, filter: string): ChildProcess {
  const seek = even && first > 0 ? ['-ss', ((first - SEEK_EARLY) / rate).toFixed(6)] : [];
  const trim = !even && first > 0 ? `,trim=start_frame=${first}` : '';
  return startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', ...seek, ...safeInput(path)],
      ...['-map', `0:${stream ?? 'v:0'}`, '-an', '-vf', `fps=${rate}${trim}${filter}`],
      ...(count === undefined ? [] : ['-frames:v', String(count)]),
      ...aheadOutput('rgb24', ahead),
    ],
    ['ignore', 'pipe', 'pipe'],
  );
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
  const child = startMediaTool(
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
      ...rawOutput('rgb24'),
    ],
    ['pipe', 'pipe', 'pipe'],
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
  for await (const data of rawFrames(child, width * height * 3, signal)) yield { width, height, data };
}
