import { existsSync } from 'node:fs';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readTruth, type Truth } from '@merry-shadow/core/measure/truth';
import { joinChunks, type Observations, type ObservationChunk } from '@merry-shadow/core/observe/observations';
import { readScript } from '@merry-shadow/synth/choreography/script';
import { populationClip, type Recording } from '@merry-shadow/synth/population/clip';
import { makeClip } from '@merry-shadow/synth/make-clip';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { depthWithin, probeDepth, withDepth } from '@merry-shadow/tracker/node/read-depth';
import type { HandCrop } from '@merry-shadow/tracker/hands/hand-crop';
import { trackClip, type ClipRun } from '@merry-shadow/tracker/node/track-clip';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import type { ReadingRules } from '@merry-shadow/tracker/reading-rules';
import { guideFor } from '@merry-shadow/tracker/people/guide';
import { DATA, NETWORK_CACHE } from './paths';

/** A clip with known truth, tracked. */
export interface MeasuredClip {
  name: string;
  /** One for each performer, the most prominent first. */
  tracked: Observations[];
  truths: Truth[];
  /** Hands alone, cut out of the picture in each of the ways that were asked for; one of each for each performer. */
  cropped: Observations[][];
}

/** How clips are tracked. */
export interface Measuring {
  fine?: boolean;
  depth?: boolean;
  /** Ways to cut out hands, besides the usual one. */
  handCrops?: readonly HandCrop[];
}

/** The view across the long side of the picture, degrees. */
export function fieldOfViewOf({ camera: { width, height, focal } }: Truth): number {
  return (2 * Math.atan(Math.max(width, height) / 2 / focal) * 180) / Math.PI;
}

/** The choreographies of a folder, as texts. */
export async function scriptsIn(folder: string): Promise<string[]> {
  const files = (await readdir(folder)).sort();
  return Promise.all(files.map((file) => readFile(join(folder, file), 'utf8')));
}

/** Recorded motions of a folder that performers of a population may do. @throws Error when there are none. */
export async function recordingsIn(folder: string): Promise<Recording[]> {
  const all = await readdir(folder).catch((): string[] => []);
  const files = all.filter((file) => /\.bvh$/i.test(file)).sort();
  if (files.length === 0) throw new Error(`There are no recorded motions (BVH) in ${folder}.`);
  return Promise.all(files.map(async (name) => ({ name, bvh: await readFile(join(folder, name), 'utf8') })));
}

/**
 * Tracks the clips of choreographies, one after the other; what is not rendered yet is rendered first.
 * @param scripts the choreographies, as texts.
 * @param clips folder of their clips and truths.
 */
export async function* measuredClips(
  scripts: readonly string[],
  clips: string,
  { fine, depth, handCrops = [] }: Measuring = {},
): AsyncGenerator<MeasuredClip> {
  const pool = new TrackPool(NETWORK_CACHE);
  try {
    for (const text of scripts) {
      const { name, performers, camera } = readScript(text);
      const truthPaths = performers.map(({ name: performer }) =>
        join(clips, performers.length > 1 ? `${name}.${performer}.truth.json` : `${name}.truth.json`),
      );
      const depthPath = depth && performers.length === 1 ? join(clips, `${name}.depth.mkv`) : null;
      if (![...truthPaths, ...(depthPath ? [depthPath] : [])].every((path) => existsSync(path))) {
        process.stderr.write(`rendering ${name}\n`);
        await makeClip(text, clips, depthPath ? { depth: 'sensed' } : {});
      }
      const truths = await Promise.all(truthPaths.map(async (path) => readTruth(await readFile(path, 'utf8'))));
      const source = await wholeClip(join(clips, `${name}.mp4`));
      const seen = await track(pool, source, truths.length, { fine });
      const cropped: Observations[][] = [];
      for (const handCrop of handCrops)
        cropped.push(await track(pool, source, truths.length, { face: false, handCrop }));
      // A depth camera with a lens of its own: its file tells how both lie to each other.
      const video =
        depthPath &&
        (camera.beside
          ? await depthWithin(join(clips, `${name}.recording.mkv`))
          : await probeDepth(depthPath, seen[0]));
      const tracked = video ? await withDepth(seen, video, seen[0]) : seen;
      yield { name, tracked, truths, cropped };
    }
  } finally {
    await pool.close();
  }
}

/** The clips of a population: their choreographies, as texts, and where they lie. @param motions folder of recorded motions that some of them do. */
export async function population({
  seed,
  clips,
  motions,
}: PopulationChoice): Promise<{ scripts: string[]; folder: string }> {
  const recordings = motions ? await recordingsIn(motions) : [];
  return {
    scripts: Array.from({ length: clips }, (_, i) => JSON.stringify(populationClip(seed, i, recordings))),
    folder: join(DATA, recordings.length > 0 ? 'families-recorded' : 'families'),
  };
}

/** Which clips of which population. */
export interface PopulationChoice {
  seed: number;
  clips: number;
  motions?: string;
}

/** A clip of one performer, and what its solve is given: height and field of view. */
export interface LoneClip {
  name: string;
  observations: Observations;
  truth: Truth;
  given: { height: number; fieldOfView: number };
}

/** Of the clips of choreographies those with one performer, tracked; see `measuredClips`. */
export async function* loneClips(scripts: readonly string[], clips: string): AsyncGenerator<LoneClip> {
  for await (const { name, tracked, truths } of measuredClips(scripts, clips)) {
    if (truths.length > 1) continue;
    const [[observations], [truth]] = [tracked, truths];
    yield { name, observations, truth, given: { height: truth.height, fieldOfView: fieldOfViewOf(truth) } };
  }
}

/** A clip from its first frame to its last. */
async function wholeClip(path: string): Promise<ClipRun['source']> {
  const { width, height, rate, frames, even } = await probeClip(path);
  return { path, width, height, rate, even, count: frames };
}

/** Tracks body, hands and face of the most prominent performers. */
async function track(
  pool: TrackPool,
  source: ClipRun['source'],
  performers: number,
  { face = true, ...rules }: ReadingRules & { face?: boolean },
): Promise<Observations[]> {
  const alone = performers === 1;
  const people = alone ? [] : await pool.people({ source });
  const guides = alone ? undefined : people.slice(0, performers).map((_, i) => guideFor(people, i));
  const pieces: ObservationChunk[][] = Array.from({ length: performers }, () => []);
  await trackClip(pool, {
    source,
    hands: alone,
    face: alone && face,
    ...rules,
    guides,
    onPiece: (piece, i) => void pieces[i].push(piece),
  });
  return pieces.map(joinChunks);
}
