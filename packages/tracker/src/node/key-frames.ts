import type { Picture } from '../picture/picture';
import { startMediaTool } from './media-process';
import { safeInput } from './media-safety';
import { KEY_EVERY } from './proxy';
import { FootageError } from './probe';
import { rawFrames } from './raw-frames';
import { runMediaTool } from './run-media-tool';

/**
 * Reads some of a prepared clip's key frames, evenly over its whole length: they are decoded without all that lies between them.
 * @param wanted about how many. @throws FootageError when the clip can't be read.
 */
export async function* readKeyFrames(
  { path, width, height, rate, frames }: { path: string; width: number; height: number; rate: number; frames: number },
  wanted: number,
  signal?: AbortSignal,
): AsyncGenerator<{ picture: Picture; frame: number }> {
  // Which frames they are is told while the first ones are decoded.
  const numbers = keyFrames(path, rate);
  numbers.catch(() => undefined);
  const every = Math.max(1, Math.ceil(frames / KEY_EVERY / Math.max(1, wanted)));
  const child = startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', '-skip_frame', 'nokey', ...safeInput(path)],
      ...['-map', '0:v:0', '-an', '-vf', `select=not(mod(n\\,${every}))`],
      ...['-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1'],
    ],
    ['ignore', 'pipe', 'pipe'],
  );
  let index = 0;
  for await (const data of rawFrames(child, width * height * 3, signal))
    yield { picture: { width, height, data }, frame: (await numbers)[index++ * every] ?? 0 };
}

/** The frames that are key frames. @throws FootageError when the clip can't be read. */
async function keyFrames(path: string, rate: number): Promise<number[]> {
  const frames: number[] = [];
  const { code } = await runMediaTool(
    'ffprobe',
    [
      '-v',
      'error',
      '-select_streams',
      'v:0',
      '-show_entries',
      'packet=pts_time,flags',
      '-of',
      'csv=p=0',
      ...safeInput(path),
    ],
    {
      seconds: 120,
      onLine: (line) => {
        const [time, flags] = line.split(',');
        if (flags?.startsWith('K')) frames.push(Math.round(Number(time) * rate));
      },
    },
  );
  if (code !== 0 || frames.length === 0) throw new FootageError('The clip could not be looked at.');
  return frames.sort((a, b) => a - b);
}
