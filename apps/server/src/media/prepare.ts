import { stat, writeFile } from 'node:fs/promises';
import type { ClipFacts } from '@merry-shadow/contracts/clip';
import { LONGEST_SIDE, proxyArguments, proxySize } from '@merry-shadow/tracker/node/proxy';
import { safeInput } from '@merry-shadow/tracker/node/media-safety';
import { FootageError, probeClip, type ClipFacts as ProbedFacts } from '@merry-shadow/tracker/node/probe';
import { loudness } from '@merry-shadow/tracker/node/read-sound';
import { runMediaTool } from '@merry-shadow/tracker/node/run-media-tool';
import type { ClipLimits } from '../settings';
import { FILMSTRIP_PICTURES, type PreparedFiles } from './media-folder';
import { needRoom, NoRoomError } from './room';

/**
 * Bytes that a prepared pixel usually takes: 0.014 to 0.035 on clean clips of ours, 0.09 and more on grainy ones. Room is looked
 * for with this; footage that takes more is told when the disk is full in the middle of it.
 */
const BYTES_PER_PIXEL = 0.04;

/** What is needed to prepare a clip. */
export interface Preparation {
  original: string;
  /** A folder of this try alone. */
  into: PreparedFiles;
  limits: ClipLimits;
  /** Bytes that stay free on the disk. */
  room: number;
  /** 0 … 1. */
  onProgress: (part: number) => void;
  signal: AbortSignal;
}

/**
 * Looks into an original.
 * @throws FootageError with a sentence when it is no readable video, or holds more than may be brought in.
 */
export async function originalFacts(original: string, limits: ClipLimits): Promise<ProbedFacts> {
  const facts = await probeClip(original);
  const { seconds, frames, width, height } = facts;
  if (seconds > limits.seconds)
    throw new FootageError(
      `The clip is ${hours(seconds)} long; up to ${hours(limits.seconds)} can be brought in. Cut it into parts first.`,
    );
  if (frames > limits.frames)
    throw new FootageError(
      `At ${Number(facts.rate.toFixed(2))} frames a second the clip has ${grouped(frames)} frames; up to ${grouped(limits.frames)} can be brought in. Cut it into parts first.`,
    );
  if (frames * width * height > limits.pixels)
    throw new FootageError(
      `${grouped(frames)} frames of ${width} × ${height} pixels are more than can be worked on. Cut the clip into parts, or make the picture smaller.`,
    );
  const size = proxySize(width, height);
  if (Math.min(size.width, size.height) < 32)
    throw new FootageError(
      `The picture is ${width} × ${height} pixels, too narrow to be worked on: the long side may be ${LONGEST_SIDE / 32} times the short one at most.`,
    );
  return facts;
}

/**
 * Prepares a received clip: an upright proxy at a constant rate with a key frame every eighth frame
 * (so that every frame is reached at once), a poster and a filmstrip. The original is kept.
 * @throws FootageError with a sentence when the file is no readable video, NoRoomError when the disk is full.
 */
export async function prepareClip(facts: ProbedFacts, preparation: Preparation): Promise<ClipFacts> {
  const { original, into, limits, room, onProgress, signal } = preparation;
  const size = proxySize(facts.width, facts.height);
  const bytes = room + facts.frames * size.width * size.height * BYTES_PER_PIXEL;
  await needRoom(into.prepared, bytes);
  const tool = (args: string[], options: ToolOptions): Promise<void> =>
    ffmpeg(args, options, signal, new NoRoomError(into.prepared, bytes));
  /** The file may go on for longer than it says, but not for ever. */
  const longest = Math.min(limits.seconds, facts.seconds * 2 + 30);
  let endless = false;
  await tool(['-progress', 'pipe:1', '-nostats', ...proxyArguments(original, facts, into, limits.frames + 1)], {
    seconds: 120 + facts.seconds * 30,
    onLine: (line) => {
      const done = Number(/^out_time_us=(\d+)/.exec(line)?.[1] ?? 0) / 1e6;
      if (done > longest) endless = true;
      if (done > 0) onProgress(Math.min(0.95, (done / facts.seconds) * 0.95));
      return !endless;
    },
  }).catch((error: Error) => {
    if (!endless) throw error;
    throw new FootageError(
      `The file says that it is ${hours(facts.seconds)} long, but its pictures go on for more than ${hours(longest)}. Its time stamps are damaged.`,
    );
  });
  // The proxy is what is shown and tracked: its count of frames is the one that counts.
  const proxy = await probeClip(into.proxy);
  if (proxy.frames > limits.frames)
    throw new FootageError(`The clip has more than ${grouped(limits.frames)} frames. Cut it into parts first.`);
  await tool(still(into.proxy, into.poster, proxy), { seconds: 120 });
  await tool(strip(into.proxy, into.filmstrip, proxy), { seconds: 120 });
  if (facts.hasSound) await writeFile(into.wave, await loudness(into.proxy, signal));
  onProgress(1);
  const { size: originalBytes } = await stat(original);
  return {
    width: facts.width,
    height: facts.height,
    rate: facts.rate,
    codec: facts.codec,
    hasSound: facts.hasSound,
    rotation: facts.rotation,
    fieldOfView: facts.fieldOfView,
    hasDepth: facts.depth !== null,
    frames: proxy.frames,
    seconds: proxy.frames / facts.rate,
    bytes: originalBytes,
    missingFrames: missing(facts.frames, proxy.frames, facts.rate),
  };
}

/** Frames that a file announces but does not hold; what lies within rounding and odd ends is none. */
function missing(announced: number, held: number, rate: number): number {
  const lost = announced - held;
  return lost > Math.max(0.5 * rate, 0.03 * announced, 2) ? lost : 0;
}

type Timing = Pick<ProbedFacts, 'frames' | 'rate'>;

/** Seeks the frame at a part of a clip, 0 … 1; a little before its own time, or there might be none after it. */
function seek({ frames, rate }: Timing, part: number): string[] {
  const frame = Math.min(frames - 1, Math.floor(part * frames));
  return ['-ss', Math.max(0, (frame - 0.25) / rate).toFixed(4)];
}

const still = (from: string, to: string, timing: Timing): string[] => [
  ...seek(timing, Math.min(0.5, (0.4 * timing.rate) / timing.frames)),
  ...[...safeInput(from), '-frames:v', '1', '-vf', 'scale=640:-2', '-q:v', '4', '-update', '1', to],
];

/** Pictures from all over the clip beside each other; each is sought, so that a long clip takes no longer. */
function strip(from: string, to: string, timing: Timing): string[] {
  const places = Array.from({ length: FILMSTRIP_PICTURES }, (_, i) => (i + 0.5) / FILMSTRIP_PICTURES);
  const shrink = places.map((_, i) => `[${i}:v]trim=end_frame=1,setpts=0,scale=-2:72[p${i}]`).join(';');
  return [
    ...places.flatMap((place) => [...seek(timing, place), ...safeInput(from)]),
    ...['-filter_complex', `${shrink};${places.map((_, i) => `[p${i}]`).join('')}hstack=${FILMSTRIP_PICTURES}`],
    ...['-frames:v', '1', '-q:v', '4', '-update', '1', to],
  ];
}

interface ToolOptions {
  seconds: number;
  /** @returns false to stop the program. */
  onLine?: (line: string) => boolean;
}

async function ffmpeg(args: string[], options: ToolOptions, signal: AbortSignal, full: NoRoomError): Promise<void> {
  const enough = new AbortController();
  const result = await runMediaTool('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args], {
    seconds: options.seconds,
    onLine: (line) => void (options.onLine?.(line) === false && enough.abort()),
    signal: AbortSignal.any([signal, enough.signal]),
  });
  signal.throwIfAborted();
  if (/No space left on device|Disk quota exceeded/.test(result.stderr)) throw full;
  if (result.timedOut) throw new FootageError('Preparing the clip took too long and was stopped.');
  if (result.code !== 0)
    throw new FootageError(
      `The video breaks off or is damaged (${result.stderr.trim().split('\n').pop()?.slice(0, 160) || 'no reason given'}).`,
    );
  const made = await stat(args[args.length - 1]).catch(() => null);
  if (!made?.size) throw new FootageError('No picture could be made from the video. It is probably damaged.');
}

const grouped = (count: number): string => Math.round(count).toLocaleString('en-GB');

function hours(seconds: number): string {
  if (seconds < 60) return `${Number(seconds.toFixed(1))} s`;
  const minutes = Math.round(seconds / 60);
  if (minutes < 60) return `${minutes} min`;
  return minutes % 60 ? `${Math.floor(minutes / 60)} h ${minutes % 60} min` : `${minutes / 60} h`;
}
