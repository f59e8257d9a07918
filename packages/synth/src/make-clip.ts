import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, rename, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { setStage } from './stage';
import { readScript } from './choreography/script';
import { truthOf } from './truth';

export interface MadeClip {
  video: string;
  truths: string[];
  frames: number;
}

/**
 * Renders a choreography to `NAME.mp4` (H.264, no sound) with its truth beside it. The same script
 * gives the same frames, bit by bit, with any number of workers.
 * @param text the script file's text.
 * @param onFrame called after each frame with the count so far and the whole.
 * @throws Error when the script can't be used or ffmpeg fails.
 */
export async function makeClip(
  text: string,
  folder: string,
  options: { workers?: number; onFrame?: (done: number, frames: number) => void } = {},
): Promise<MadeClip> {
  const stage = setStage(readScript(text));
  const { script, frames } = stage;
  await mkdir(folder, { recursive: true });
  const video = join(folder, `${script.name}.mp4`);
  const partial = join(folder, `.${script.name}.partial.mp4`);
  const [width, height] = script.size;
  const ffmpeg = spawn(
    'ffmpeg',
    [
      '-hide_banner',
      '-loglevel',
      'error',
      '-y',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb24',
      '-s',
      `${width}x${height}`,
      '-r',
      String(script.rate),
      '-i',
      'pipe:0',
      '-c:v',
      'libx264',
      '-preset',
      'fast',
      '-crf',
      '19',
      '-pix_fmt',
      'yuv420p',
      '-g',
      String(Math.round(script.rate)),
      '-threads',
      '2',
      '-movflags',
      '+faststart',
      '-fflags',
      '+bitexact',
      '-map_metadata',
      '-1',
      partial,
    ],
    { stdio: ['pipe', 'ignore', 'pipe'] },
  );
  let complaint = '';
  ffmpeg.stderr.on('data', (data: Buffer) => (complaint += data.toString()));
  ffmpeg.stdin.on('error', () => undefined); // the exit code tells the story
  const ended = new Promise<number | null>((resolve, reject) => {
    ffmpeg.on('error', reject);
    ffmpeg.on('close', resolve);
  });
  try {
    await drawInOrder(text, frames, options.workers ?? 2, async (pixels, frame) => {
      if (!ffmpeg.stdin.write(pixels)) await Promise.race([once(ffmpeg.stdin, 'drain'), ended]);
      options.onFrame?.(frame + 1, frames);
    });
    ffmpeg.stdin.end();
  } catch (error) {
    ffmpeg.kill('SIGKILL');
    throw error;
  }
  if ((await ended) !== 0) throw new Error(`ffmpeg could not write ${video}: ${complaint.trim()}`);
  await rename(partial, video);
  const truths = await Promise.all(
    script.performers.map(async (performer, i) => {
      const path = join(
        folder,
        script.performers.length > 1 ? `${script.name}.${performer.name}.truth.json` : `${script.name}.truth.json`,
      );
      await writeFile(path, JSON.stringify(truthOf(stage, i)));
      return path;
    }),
  );
  return { video, truths, frames };
}

/** Hands frames to workers, two ahead for each, and takes them back in order. */
async function drawInOrder(
  text: string,
  frames: number,
  count: number,
  take: (pixels: Uint8Array, frame: number) => Promise<void>,
): Promise<void> {
  const workers = Array.from(
    { length: Math.min(count, frames) },
    () => new Worker(new URL('./render-worker.mjs', import.meta.url), { workerData: { text } }),
  );
  const ready = new Map<number, (pixels: Uint8Array) => void>();
  const waiting = new Map<number, Promise<Uint8Array>>();
  let failed: (error: Error) => void = () => undefined;
  const failure = new Promise<never>((_, reject) => (failed = reject));
  failure.catch(() => undefined);
  for (const worker of workers) {
    worker.on('message', ({ frame, pixels }: { frame: number; pixels: Uint8Array }) => ready.get(frame)?.(pixels));
    worker.on('error', failed);
  }
  const ask = (frame: number): void => {
    if (frame >= frames) return;
    waiting.set(frame, new Promise((resolve) => ready.set(frame, resolve)));
    workers[frame % workers.length].postMessage(frame);
  };
  try {
    for (let frame = 0; frame < workers.length * 2; frame++) ask(frame);
    for (let frame = 0; frame < frames; frame++) {
      const pixels = await Promise.race([waiting.get(frame) as Promise<Uint8Array>, failure]);
      waiting.delete(frame);
      ready.delete(frame);
      ask(frame + workers.length * 2);
      await take(pixels, frame);
    }
  } finally {
    await Promise.all(workers.map((worker) => worker.terminate()));
  }
}
