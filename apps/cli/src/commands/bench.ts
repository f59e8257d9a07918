import type { Command } from 'commander';
import { fileURLToPath } from 'node:url';
import { cpus, loadavg } from 'node:os';
import { refitAround } from '@merry-shadow/core/solve/refit';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import {
  emptyObservations,
  joinChunks,
  type CapturedParts,
  type ObservationChunk,
} from '@merry-shadow/core/observe/observations';
import { readFaceGeometry } from '@merry-shadow/tracker/node/face-geometry';
import { readFrames } from '@merry-shadow/tracker/node/frames';
import { closeNets, openNets } from '@merry-shadow/tracker/node/open-nets';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { trackClip } from '@merry-shadow/tracker/node/track-clip';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { PerformerTracker } from '@merry-shadow/tracker/performer/performer-tracker';
import { neededNets, type Net, type Nets } from '@merry-shadow/tracker/runtime/net';
import { NETWORK_CACHE } from '../paths';
import { repeatTake } from '../repeat-take';
import { minuteOfEdits, tenMinutesOfEdits } from './bench-edits';

const DEMO = fileURLToPath(new URL('../../../../demo/clips/walk-the-planks.mp4', import.meta.url));
const BODY: CapturedParts = { hands: false, face: false };
const ALL: CapturedParts = { hands: true, face: true };

interface BenchOptions {
  json?: boolean;
  long?: boolean;
}

/** Speed and memory on this machine: what `docs/accuracy.md` and the issues refer to. */
export function addBench(program: Command): void {
  program
    .command('bench')
    .description('measure speed and memory of tracking and solving on this machine')
    .argument('[clip]', 'video to measure on; the demo walk if left out')
    .option('--long', 'track the clip over and over for 20 minutes of footage, to see that memory does not grow')
    .option('--json', 'print the figures as JSON')
    .action(bench);
}

async function bench(clip: string | undefined, options: BenchOptions): Promise<void> {
  const path = clip ?? DEMO;
  const figures: Record<string, number | string> = { cores: cpus().length, load: loadavg()[0].toFixed(2) };
  for (const [name, parts] of [
    ['body', BODY],
    ['all', ALL],
  ] as const) {
    Object.assign(figures, await shares(path, name, parts));
    const { framesPerSecond, observations } = await wholePath(path, parts, 1);
    figures[`${name}: file to observations, frames/s`] = framesPerSecond;
    if (name === 'body') {
      const begin = performance.now();
      const solved = solveTake(observations);
      figures['solve, ms/frame'] = (performance.now() - begin) / observations.frames;
      const times = [100, 120, 140, 160, 180].map((frame) => {
        const near = performance.now();
        refitAround(solved, observations, frame, frame + 1);
        return performance.now() - near;
      });
      figures['neighbourhood of a changed frame, ms'] = times.sort((a, b) => a - b)[2];
      Object.assign(figures, minuteOfEdits(repeatTake(solved, 1800)), tenMinutesOfEdits(repeatTake(solved, 18_000)));
    }
  }
  figures['memory after the runs, MB'] = process.memoryUsage.rss() / 2 ** 20;
  if (options.long) {
    const { frames } = await probeClip(path);
    const rounds = Math.ceil((20 * 60 * 30) / frames);
    const grown = await wholePath(path, BODY, rounds);
    figures['20 minutes: frames'] = rounds * frames;
    figures['20 minutes: memory after a tenth, MB'] = grown.early;
    figures['20 minutes: memory at the end, MB'] = process.memoryUsage.rss() / 2 ** 20;
  }
  const rounded = Object.fromEntries(
    Object.entries(figures).map(([key, value]) => [key, typeof value === 'number' ? Number(value.toFixed(2)) : value]),
  );
  if (options.json) process.stdout.write(`${JSON.stringify(rounded, null, 2)}\n`);
  else for (const [key, value] of Object.entries(rounded)) process.stdout.write(`${key.padEnd(52)}${value}\n`);
}

/** From the file to the stored observations, on both threads. The networks are opened before the clock starts. */
async function wholePath(path: string, parts: CapturedParts, rounds: number) {
  const { width, height, rate, frames, even } = await probeClip(path);
  const pool = new TrackPool(NETWORK_CACHE);
  const source = { path, width, height, rate, even, count: frames };
  await trackClip(pool, { source: { ...source, count: Math.min(frames, 130) }, ...parts, onPiece: () => undefined });
  let early = 0;
  let pieces: ObservationChunk[] = [];
  const begin = performance.now();
  for (let round = 0; round < rounds; round++) {
    // As the worker does: a piece is handed on, not kept.
    pieces = [];
    await trackClip(pool, { source, ...parts, onPiece: (piece) => void pieces.push(piece) });
    if (round === Math.floor(rounds / 10)) early = process.memoryUsage.rss() / 2 ** 20;
  }
  const seconds = (performance.now() - begin) / 1000;
  await pool.close();
  return {
    framesPerSecond: (frames * rounds) / seconds,
    observations: pieces.length ? joinChunks(pieces) : emptyObservations(0, rate, width, height, parts),
    early,
  };
}

/** Medians for one frame on one thread: networks, and all that is done around them. */
async function shares(path: string, name: string, parts: CapturedParts): Promise<Record<string, number>> {
  const { width, height, rate, even } = await probeClip(path);
  const opened = await openNets(NETWORK_CACHE, neededNets(parts));
  let inNets = 0;
  const timed = Object.fromEntries(
    Object.entries(opened).map(([key, net]: [string, Net]) => [
      key,
      {
        ...net,
        planar: net.planar,
        run: async (...inputs: Float32Array[]) => {
          const begin = performance.now();
          const results = await net.run(...inputs);
          inNets += performance.now() - begin;
          return results;
        },
      },
    ]),
  ) as unknown as Nets;
  const tracker = new PerformerTracker(timed, {
    ...parts,
    geometry: parts.face ? await readFaceGeometry() : undefined,
  });
  const rows: [decode: number, networks: number, around: number][] = [];
  let mark = performance.now();
  for await (const picture of readFrames({ path, width, height, rate, even, count: 60 })) {
    const arrived = performance.now();
    inNets = 0;
    await tracker.next(picture, 1 / rate);
    const done = performance.now();
    // Networks of hands and face overlap; on one thread they can't take longer than the frame did.
    rows.push([arrived - mark, Math.min(inNets, done - arrived), done - arrived - Math.min(inNets, done - arrived)]);
    mark = performance.now();
  }
  await closeNets(opened);
  const median = (k: number): number => rows.map((row) => row[k]).sort((a, b) => a - b)[rows.length >> 1];
  return {
    [`${name}: networks, ms/frame`]: median(1),
    [`${name}: crops and heat maps, ms/frame`]: median(2),
    [`${name}: waiting for the decoder, ms/frame`]: median(0),
  };
}
