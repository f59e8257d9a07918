import { startMediaTool } from './media-process';
import { safeInput } from './media-safety';

/** Samples a second that sound is read with: voices, steps and claps are told well enough. */
export const SOUND_RATE = 8000;

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
  const stop = (): void => void child.kill('SIGKILL');
  signal?.addEventListener('abort', stop, { once: true });
  const block = new Float32Array(SOUND_RATE / 100);
  let [filled, odd] = [0, -1];
  try {
    for await (const chunk of child.stdout as AsyncIterable<Buffer>)
      for (const byte of chunk) {
        if (odd < 0) {
          odd = byte;
          continue;
        }
        block[filled++] = ((((byte << 8) | odd) << 16) >> 16) / 32768;
        odd = -1;
        if (filled < block.length) continue;
        yield block.slice();
        filled = 0;
      }
    if (filled > 0) yield block.slice(0, filled);
  } finally {
    stop();
    signal?.removeEventListener('abort', stop);
  }
}

/** The loudest sample of each hundredth of a second, 0 … 255. */
export async function loudness(path: string, signal?: AbortSignal): Promise<Uint8Array> {
  const peaks: number[] = [];
  for await (const block of readSound(path, signal))
    peaks.push(Math.min(255, Math.round(255 * block.reduce((most, value) => Math.max(most, Math.abs(value)), 0))));
  return Uint8Array.from(peaks);
}
