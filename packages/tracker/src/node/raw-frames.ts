import type { ChildProcess } from 'node:child_process';
import { FootageError } from './probe';

/** Every decoded picture once, as bare pixels, to the pipe. */
export const rawOutput = (pixels: string): string[] => [
  ...['-fps_mode', 'passthrough', '-f', 'rawvideo', '-pix_fmt', pixels, 'pipe:1'],
];

/** As `rawOutput`, but decoding goes on while nobody reads. @param ahead so many pictures at most are decoded before they are asked for. */
export const aheadOutput = (pixels: string, ahead = 8): string[] => [
  ...['-fps_mode', 'passthrough', '-c:v', 'rawvideo', '-pix_fmt', pixels],
  ...['-f', 'fifo', '-fifo_format', 'rawvideo', '-queue_size', String(ahead), 'pipe:1'],
];

/**
 * Cuts what a decoder writes to its output into frames. Frames are valid until the next but one is asked for.
 * @param size bytes of a frame.
 * @throws FootageError when the decoder stops with an error before any frame was read.
 */
export async function* rawFrames(child: ChildProcess, size: number, signal?: AbortSignal): AsyncGenerator<Uint8Array> {
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
          yield buffers[count++ % 2];
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
