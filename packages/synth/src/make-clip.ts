import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import { setStage } from './stage';
import { readScript } from './choreography/script';
import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { depthDevice } from './render/depth-device';
import { sensorSize } from './render/depth-sensor';
import type { DepthKind, DrawnFrame, DrawingJob } from './render-worker';
import { truthOf } from './truth';
import { VideoFile } from './video-file';

export interface MadeClip {
  video: string;
  /** What the simulated depth camera saw; null where it was not asked for. */
  depth: string | null;
  truths: string[];
  frames: number;
}

/**
 * Renders a choreography to `NAME.mp4` (H.264, no sound) with its truth beside it, and, if asked for, what a depth
 * camera would have seen (`NAME.depth.mkv`), with its faults or clean of them. The same script gives the same frames, bit by bit, with any number of workers.
 * @param text the script file's text.
 * @param onFrame called after each frame with the count so far and the whole.
 * @throws Error when the script can't be used or ffmpeg fails.
 */
export async function makeClip(
  text: string,
  folder: string,
  options: { workers?: number; depth?: DepthKind; onFrame?: (done: number, frames: number) => void } = {},
): Promise<MadeClip> {
  const stage = setStage(readScript(text));
  const { script, frames } = stage;
  await mkdir(folder, { recursive: true });
  const video = join(folder, `${script.name}.mp4`);
  const [width, height] = script.size;
  const { rate } = script;
  const colour = new VideoFile(video, { rate, width, height }, 'rgb24', script.film.compression);
  const device = depthDevice(script, stage.cameras);
  const [columns, rows] = device ? script.camera.beside!.size : sensorSize(width, height);
  const depthPath = join(folder, `${script.name}.depth.mkv`);
  const depthShape = { rate: rate / (device?.every ?? 1), width: columns, height: rows };
  const depth = options.depth ? new VideoFile(depthPath, depthShape, 'gray16le') : null;
  const files = depth ? [colour, depth] : [colour];
  try {
    await drawInOrder({ text, depth: options.depth ?? null }, frames, options.workers ?? 2, async (drawn, frame) => {
      await colour.write(drawn.pixels);
      if (depth && drawn.depth) await depth.write(new Uint8Array(drawn.depth.buffer));
      options.onFrame?.(frame + 1, frames);
    });
    for (const file of files) await file.finish();
    if (depth && device)
      await joinRecording(video, depthPath, device.rig, join(folder, `${script.name}.recording.mkv`));
  } catch (error) {
    for (const file of files) file.abandon();
    throw error;
  }
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
  return { video, depth: depth && depthPath, truths, frames };
}

/** Colour and depth in one file, with how both cameras lie to each other (docs/formats.md). */
async function joinRecording(colour: string, depth: string, rig: DepthRig, into: string): Promise<void> {
  const inputs = ['-i', colour, '-i', depth, '-map', '0:v', '-map', '1:v', '-c', 'copy', '-fflags', '+bitexact'];
  const child = spawn(
    'ffmpeg',
    ['-hide_banner', '-loglevel', 'error', '-y', ...inputs, '-metadata', `DEPTH_RIG=${JSON.stringify(rig)}`, into],
    { stdio: 'ignore' },
  );
  const [code] = (await once(child, 'close')) as [number | null];
  if (code !== 0) throw new Error('Colour and depth could not be joined into one file.');
}

/** Hands frames to workers, two ahead for each, and takes them back in order. */
async function drawInOrder(
  job: DrawingJob,
  frames: number,
  count: number,
  take: (drawn: DrawnFrame, frame: number) => Promise<void>,
): Promise<void> {
  const workers = Array.from(
    { length: Math.min(count, frames) },
    () => new Worker(new URL('./render-worker.mjs', import.meta.url), { workerData: job }),
  );
  const ready = new Map<number, (drawn: DrawnFrame) => void>();
  const waiting = new Map<number, Promise<DrawnFrame>>();
  let failed: (error: Error) => void = () => undefined;
  const failure = new Promise<never>((_, reject) => (failed = reject));
  failure.catch(() => undefined);
  for (const worker of workers) {
    worker.on('message', (drawn: DrawnFrame) => ready.get(drawn.frame)?.(drawn));
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
      const drawn = await Promise.race([waiting.get(frame) as Promise<DrawnFrame>, failure]);
      waiting.delete(frame);
      ready.delete(frame);
      ask(frame + workers.length * 2);
      await take(drawn, frame);
    }
  } finally {
    await Promise.all(workers.map((worker) => worker.terminate()));
  }
}
