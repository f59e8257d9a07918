import type { ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import type { Readable } from 'node:stream';
import type { Picture } from '../picture/picture';
import { startMediaTool } from './media-process';
import { safeInput } from './media-safety';
import { KEY_EVERY } from './proxy';
import { FootageError } from './probe';
import { aheadOutput, rawFrames } from './raw-frames';

/**
 * Reads some of a prepared clip's key frames, evenly over its whole length: they are decoded without all that lies between them, some ahead of what is read.
 * @param wanted about how many. @throws FootageError when the clip can't be read.
 */
export async function* readKeyFrames(
  { path, width, height, rate, frames }: { path: string; width: number; height: number; rate: number; frames: number },
  wanted: number,
  signal?: AbortSignal,
): AsyncGenerator<{ picture: Picture; frame: number }> {
  const every = Math.max(1, Math.ceil(frames / KEY_EVERY / Math.max(1, wanted)));
  const child = startMediaTool(
    'ffmpeg',
    [
      ...['-hide_banner', '-loglevel', 'error', '-threads', '1', '-skip_frame', 'nokey', ...safeInput(path)],
      // `metadata` prints the times of pictures that have some.
      ...['-map', '0:v:0', '-an', '-vf'],
      `select=not(mod(n\\,${every})),metadata=add:key=look:value=1,metadata=print:file=pipe\\\\:3:direct=1`,
      ...aheadOutput('rgb24'),
    ],
    ['ignore', 'pipe', 'pipe', 'pipe'],
  );
  const times = printedTimes(child);
  for await (const data of rawFrames(child, width * height * 3, signal)) {
    const { value, done } = await times.next();
    if (done) throw new FootageError('The clip could not be looked at.');
    yield { picture: { width, height, data }, frame: Math.round(value * rate) };
  }
}

/** Seconds of the pictures that a decoder gives, as it prints them beside. */
async function* printedTimes(child: ChildProcess): AsyncGenerator<number, void> {
  for await (const line of createInterface({ input: child.stdio[3] as Readable })) {
    const time = /pts_time:(\S+)/.exec(line);
    if (time) yield Number(time[1]);
  }
}
