import { Option, type Command } from 'commander';
import { createWriteStream } from 'node:fs';
import { mkdir, stat, writeFile } from 'node:fs/promises';
import { basename, dirname, extname, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { marksFileText } from '@merry-shadow/contracts/marks-file';
import {
  joinChunks,
  scalePicture,
  type ObservationChunk,
  type Observations,
} from '@merry-shadow/core/observe/observations';
import { EXPORT_FORMATS, formatsFor } from '@merry-shadow/core/formats/export-formats';
import { writeExport } from '@merry-shadow/core/formats/write-export';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import type { CalibrationPose } from '@merry-shadow/core/solve/body/calibration-pose';
import { MANNERS, type Manner } from '@merry-shadow/core/solve/after/manner';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import { guideFor, type Guide } from '@merry-shadow/tracker/people/guide';
import { readFaceGeometry } from '@merry-shadow/tracker/node/face-geometry';
import { pngFiles, readPngFrames, type FrameSource } from '@merry-shadow/tracker/node/frames';
import { closeNets, openNets } from '@merry-shadow/tracker/node/open-nets';
import { pngSize, probeClip } from '@merry-shadow/tracker/node/probe';
import { depthWithin, probeDepth, withDepth, type DepthVideo } from '@merry-shadow/tracker/node/read-depth';
import { readMouth } from '@merry-shadow/tracker/node/read-mouth';
import { trackClip } from '@merry-shadow/tracker/node/track-clip';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { trackSegment } from '@merry-shadow/tracker/node/track-segment';
import { neededNets } from '@merry-shadow/tracker/runtime/net';
import { numberBetween } from '../numbers';
import { NETWORK_CACHE } from '../paths';

interface TrackOptions {
  to?: string;
  marks?: string;
  from?: number;
  until?: number;
  height?: (number | undefined)[];
  fov?: number;
  tilt?: number;
  steady: boolean;
  calibration?: number;
  neutral?: number;
  fps?: number;
  slow?: number;
  hands?: boolean;
  face?: boolean;
  performers?: number;
  plain?: boolean;
  fine?: boolean;
  manner?: Manner;
  depth?: string;
  json?: boolean;
}

export function addTrack(program: Command): void {
  program
    .command('track')
    .description('turn a clip into motion: marks, BVH, GLB and a report')
    .argument('<clip>', 'video file, or a folder of PNG frames (with --fps)')
    .option(
      '--to <dir>',
      'folder for NAME.take1.bvh, .glb, .vrma, with --face .face.csv and .face.json, .marks.json and report.json',
    )
    .option('--marks <file>', 'write only the marks, to this file')
    .option('--from <seconds>', 'in point', numberBetween('--from', 0, 1e6))
    .option('--until <seconds>', 'out point', numberBetween('--until', 0, 1e6))
    .option(
      '--height <metres>',
      "the performer's height; of several performers their heights in order, with commas between and nothing for who is not known",
      heightsOf,
    )
    .option('--fov <degrees>', "the camera's view across the long side of the picture", numberBetween('--fov', 5, 150))
    .option('--no-steady', 'leave in what the camera moved, which is taken out otherwise')
    .option('--tilt <degrees>', 'how far the camera looks down; found if left out', numberBetween('--tilt', -60, 60))
    .option(
      '--calibration <frame>',
      'frame of the take that shows the proportions best; a T- or A-pose is found if left out',
      numberBetween('--calibration', 0, 1e7),
    )
    .option(
      '--neutral <frame>',
      'with --face: a frame of the take in which the face does nothing; found if left out',
      numberBetween('--neutral', 0, 1e7),
    )
    .option('--fps <n>', 'frame rate of a folder of pictures', numberBetween('--fps', 1, 240))
    .option('--slow <factor>', 'how many times slower than life the footage plays', numberBetween('--slow', 0.1, 20))
    .option('--hands', 'capture both hands, too')
    .option('--face', 'capture the face, too')
    .option(
      '--performers <n>',
      'follow the n most prominent people, a take for each',
      numberBetween('--performers', 1, 6),
    )
    .addOption(
      new Option(
        '--manner <how>',
        'how the performer moves: about the room, on the spot, seated, or with the camera held on the head (the face alone)',
      ).choices(MANNERS),
    )
    .option(
      '--depth <file>',
      'what a depth camera saw (millimetres as a video of 16-bit grey); NAME.depth.mkv beside the clip is taken by itself',
    )
    .option('--plain', 'the exact region rule, no extra steadying')
    .option('--fine', 'look at the mirror image of each frame, too: better marks, slower')
    .option('--json', 'print the report as JSON')
    .action(track);
}

/** Larger pictures are read at this length of their longer side: more tells the networks nothing. */
const LONGEST = 1920;

/** The part of a clip that is asked for: a place in a video, or a list of pictures. */
interface OpenedClip {
  name: string;
  source: FrameSource & { count: number };
  pictures: string[] | null;
  /** Of the upright picture as it is in the file. */
  size: { width: number; height: number };
  /** Where the file tells it, degrees. */
  fieldOfView: number | null;
}

async function openClip(path: string, options: TrackOptions): Promise<OpenedClip> {
  const from = options.from ?? 0;
  if (options.until !== undefined && options.until <= from) throw new Error('--until must lie after --from.');
  const found = await stat(path).catch(() => null);
  if (!found) throw new Error(`There is no clip at ${path}.`);
  if (found.isDirectory()) {
    const rate = options.fps ?? 30;
    const files = await pngFiles(path);
    const pictures = files.slice(
      Math.round(from * rate),
      options.until === undefined ? undefined : Math.round(options.until * rate),
    );
    if (pictures.length === 0)
      throw new Error(`The folder holds ${files.length} pictures; none lie between --from and --until.`);
    const size = await pngSize(pictures[0]);
    return {
      name: basename(path),
      source: { path, ...size, rate, count: pictures.length },
      pictures,
      size,
      fieldOfView: null,
    };
  }
  const { width, height, rate, seconds, even, stream, fieldOfView } = await probeClip(path);
  const shrink = Math.min(1, LONGEST / Math.max(width, height));
  const fit = (length: number): number => (shrink === 1 ? length : Math.max(2, Math.round((length * shrink) / 2) * 2));
  if (from >= seconds) throw new Error(`The clip is ${seconds.toFixed(2)} s long; --from lies behind its end.`);
  const first = Math.round(from * rate);
  const count = Math.max(1, Math.round(Math.min(options.until ?? Infinity, seconds) * rate) - first);
  return {
    name: basename(path, extname(path)),
    source: { path, stream, width: fit(width), height: fit(height), rate, even, first, count },
    pictures: null,
    size: { width, height },
    fieldOfView,
  };
}

interface Tracked {
  /** One for each performer. */
  performers: Observations[];
  times: { decode: number; track: number };
  /** The detector's score wherever it had to look. */
  detections: number[];
}

/** Videos are tracked in segments on two threads; folders of pictures, and the exact rule, in one run. */
async function trackOpened(
  { source, pictures }: OpenedClip,
  options: TrackOptions,
  onProgress: (done: number) => void,
): Promise<Tracked> {
  const parts = { hands: options.hands ?? false, face: options.face ?? false };
  if (pictures) {
    if (options.performers) throw new Error('Several performers are told apart in videos, not in folders of pictures.');
    const nets = await openNets(NETWORK_CACHE, neededNets(parts));
    const geometry = parts.face ? await readFaceGeometry() : undefined;
    const { observations, times, detections } = await trackSegment(nets, {
      ...source,
      ...parts,
      geometry,
      plain: options.plain,
      fine: options.fine,
      warmUp: 0,
      frames: readPngFrames(pictures, source.width, source.height),
      onFrame: onProgress,
    });
    await closeNets(nets);
    return { performers: observations, times, detections };
  }
  const pool = new TrackPool(NETWORK_CACHE);
  try {
    const guides = options.performers ? await guidesFor(pool, source, options.performers) : undefined;
    const pieces: ObservationChunk[][] = (guides ?? [null]).map(() => []);
    const { times, detections } = await trackClip(pool, {
      source,
      ...parts,
      plain: options.plain,
      fine: options.fine,
      guides,
      onProgress,
      onPiece: (piece, performer) => void pieces[performer].push(piece),
    });
    return { performers: pieces.map(joinChunks), times, detections };
  } finally {
    await pool.close();
  }
}

async function guidesFor(pool: TrackPool, source: OpenedClip['source'], wanted: number): Promise<Guide[]> {
  const people = await pool.people({ source });
  if (people.length === 0) throw new Error('Nobody was found in the clip.');
  if (people.length < wanted) process.stderr.write(`Only ${people.length} of ${wanted} performers were found.\n`);
  return people.slice(0, wanted).map((_, i) => guideFor(people, i));
}

/** Reads heights in the order of the performers. @throws Error naming the option. */
function heightsOf(text: string): (number | undefined)[] {
  const read = numberBetween('--height', 0.5, 2.6);
  return text.split(',').map((part) => (part.trim() === '' ? undefined : read(part)));
}

const seconds = (ms: number): number => Number((ms / 1000).toFixed(3));
const count = (presence: Float32Array, above = 0): number => presence.filter((value) => value > above).length;

async function track(path: string, options: TrackOptions): Promise<void> {
  if (!options.to && !options.marks)
    throw new Error('Say where to write: --to DIR, or --marks FILE for the marks alone.');
  const clip = await openClip(path, options);
  const depthPath = await depthFile(path, options);
  // What can't be used is told before time is spent.
  const depth = depthPath ? await probeDepth(depthPath, clip.source) : await depthInside(path);
  const started = performance.now();
  const show = process.stderr.isTTY && !options.json;
  const { performers, times, detections } = await trackOpened(clip, options, (done) => {
    if (show && done % 10 === 0) process.stderr.write(`\rtracking ${done} of ${clip.source.count} frames `);
  });
  if (show) process.stderr.write('\n');
  const tracked = performance.now();
  const observed = depth ? await withDepth(performers, depth, clip.source) : performers;
  const rate = clip.source.rate * (options.slow ?? 1);
  const { frames } = observed[0];
  const report: Record<string, unknown> = {
    clip: clip.name,
    frames,
    rate,
    seconds: Number((frames / rate).toFixed(3)),
    framesPerSecond: Number((frames / seconds(tracked - started)).toFixed(2)),
    detectorScores: detections.map((score) => Number(score.toFixed(3))),
    // Decoding and reading are summed over the threads.
    stages: {
      track: seconds(tracked - started),
      decodeWait: seconds(times.decode * 1000),
      read: seconds(times.track * 1000),
    },
  };
  if (depth) report.depth = basename(depth.path);
  const takes: TakeReport[] = [];
  const { width, height } = clip.size;
  const sized = observed.map((seen) => ({
    ...(seen.width === width ? seen : scalePicture(seen, width, height)),
    rate,
  }));
  const fov = options.fov ?? clip.fieldOfView ?? undefined;
  // A voice is told of who performs alone, and where the footage plays as fast as life.
  const voiced = !clip.pictures && !options.slow && sized.length === 1;
  const mouth = voiced ? await readMouth(clip.source.path, clip.source.first ?? 0, sized[0]) : undefined;
  for (const i of sized.keys()) takes.push(await writeTake(i, clip.name, sized, { ...options, fov, mouth }));
  Object.assign(report, takes.length === 1 ? takes[0] : { takes });
  if (options.to) await writeFile(join(options.to, 'report.json'), JSON.stringify(report, null, 2));
  if (options.json) process.stdout.write(`${JSON.stringify(report, null, 2)}\n`);
  else
    process.stdout.write(
      `${frames} frames, ${takes.map((take) => take.seen).join(' and ')} with the performer seen, ${String(report.framesPerSecond)} frames/s${options.to ? `, written to ${options.to}` : ''}\n`,
    );
}

/** What a recording of a depth device holds beside its colour picture. */
async function depthInside(clip: string): Promise<DepthVideo | null> {
  return (await stat(clip)).isDirectory() ? null : depthWithin(clip);
}

/** The depth camera's video that goes with a clip, if there is one. @throws Error when the one that is named is not there. */
async function depthFile(clip: string, { depth }: TrackOptions): Promise<string | null> {
  const beside = join(dirname(clip), `${basename(clip, extname(clip))}.depth.mkv`);
  const found = await stat(depth ?? beside).catch(() => null);
  if (!found && depth) throw new Error(`There is no depth video at ${depth}.`);
  return found ? (depth ?? beside) : null;
}

/** What the report says of one performer's take. */
interface TakeReport {
  seen: number;
  handsSeen?: { left: number; right: number };
  faceSeen?: number;
  height?: { metres: number; estimated: boolean };
  /** The pose that showed the proportions, frames of the take. */
  pose?: CalibrationPose | null;
  /** The farthest that the camera turned from its mean direction, degrees; taken out of the motion. */
  cameraTurned?: number;
  /** The share of frames in which the background did not tell whether the camera moved: it is taken to have stood still. */
  cameraUntold?: number;
  solveSeconds?: number;
  problem?: string;
}

const writeMarks = (path: string, name: string, observations: Observations): Promise<void> =>
  pipeline(Readable.from(marksFileText(name, observations)), createWriteStream(path));

/** Writes one performer's files. @param index which of the performers, who share one world. */
async function writeTake(
  index: number,
  clip: string,
  performers: readonly Observations[],
  options: TrackOptions & { mouth?: Float32Array },
): Promise<TakeReport> {
  const number = index + 1;
  const observations = performers[index];
  const heights = options.height ?? [];
  const { hands, face, presence } = observations;
  const report: TakeReport = {
    seen: count(presence, 0.5),
    ...(hands ? { handsSeen: { left: count(hands.left.presence), right: count(hands.right.presence) } } : {}),
    ...(face ? { faceSeen: count(face.presence) } : {}),
  };
  if (options.marks)
    await writeMarks(
      number === 1 ? options.marks : options.marks.replace(/(\.\w+)?$/, `.${number}$1`),
      clip,
      observations,
    );
  if (!options.to) return report;
  await mkdir(options.to, { recursive: true });
  const file = join(options.to, `${clip}.take${number}`);
  await writeMarks(`${file}.marks.json`, clip, observations);
  try {
    if (options.calibration !== undefined && options.calibration >= observations.frames)
      throw new Error(`--calibration must name a frame of the take: 0 to ${observations.frames - 1}.`);
    const begin = performance.now();
    const solved = solveTake(observations, {
      height: heights[index],
      others: performers.flatMap((footage, i) => (i === index ? [] : [{ footage, height: heights[i] }])),
      fieldOfView: options.fov,
      tilt: options.tilt,
      steady: options.steady,
      calibration: options.calibration === undefined ? undefined : Math.round(options.calibration),
      neutral: options.neutral === undefined ? undefined : Math.round(options.neutral),
      mouth: options.mouth,
      manner: options.manner,
    });
    const motion = finishedMotion(solved);
    report.solveSeconds = seconds(performance.now() - begin);
    for (const format of formatsFor(motion))
      await writeFile(
        `${file}.${EXPORT_FORMATS[format].ending}`,
        await writeExport(format, motion, `${clip} take ${number}`),
      );
    report.height = {
      metres: Number(solved.body.proportions.height.toFixed(3)),
      estimated: solved.body.heightEstimated,
    };
    report.pose = solved.body.pose;
    report.cameraTurned = Number(((solved.turned * 180) / Math.PI).toFixed(2));
    report.cameraUntold = Number(solved.untold.toFixed(2));
  } catch (error) {
    report.problem = (error as Error).message;
    process.exitCode = 2;
    process.stderr.write(`${(error as Error).message} The marks were written.\n`);
  }
  return report;
}
