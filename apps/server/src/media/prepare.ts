import { rename, stat } from 'node:fs/promises';
import type { ClipFacts } from '@merry-shadow/contracts/clip';
import { safeInput } from '@merry-shadow/tracker/node/media-safety';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { runMediaTool } from '@merry-shadow/tracker/node/run-media-tool';
import { FILMSTRIP_PICTURES, type ClipFiles } from './media-folder';
import { exists } from './receive';

/** The longest side of the prepared picture. */
const LONGEST = 1920;

/**
 * Prepares a received clip: an upright proxy at a constant rate with a key frame every eighth frame
 * (so that every frame is reached at once), a poster and a filmstrip. The original is kept.
 * @param onProgress 0 … 1.
 * @throws FootageError with a sentence when the file is no readable video.
 */
export async function prepareClip(
  files: ClipFiles,
  onProgress: (part: number) => void,
  signal?: AbortSignal,
): Promise<ClipFacts> {
  const facts = await probeClip(files.original);
  const size = fit(facts.width, facts.height);
  if (!(await exists(files.proxy))) {
    const partial = `${files.proxy}.partial.mp4`;
    await ffmpeg(
      [
        '-progress',
        'pipe:1',
        '-nostats',
        ...safeInput(files.original),
        '-map',
        '0:v:0',
        '-map',
        '0:a:0?',
        '-vf',
        `fps=${facts.rate},scale=${size.width}:${size.height}:flags=bicubic,format=yuv420p`,
        '-c:v',
        'libx264',
        '-preset',
        'veryfast',
        '-crf',
        '17',
        '-g',
        '8',
        '-bf',
        '0',
        '-c:a',
        'aac',
        '-b:a',
        '128k',
        '-ac',
        '2',
        '-map_metadata',
        '-1',
        '-movflags',
        '+faststart',
        partial,
      ],
      {
        seconds: 120 + facts.seconds * 30,
        signal,
        onLine: (line) => {
          const match = /^out_time_us=(\d+)/.exec(line);
          if (match) onProgress(Math.min(0.95, (Number(match[1]) / 1e6 / facts.seconds) * 0.95));
        },
      },
    );
    await rename(partial, files.proxy);
  }
  const proxy = await probeClip(files.proxy);
  // The proxy is what is shown and tracked: its count of frames is the one that counts.
  await picture(files.proxy, files.poster, `scale=640:-2`, Math.min(0.4, proxy.seconds / 2));
  await picture(
    files.proxy,
    files.filmstrip,
    `fps=${FILMSTRIP_PICTURES / proxy.seconds},scale=-2:72,tile=${FILMSTRIP_PICTURES}x1`,
    0,
  );
  onProgress(1);
  const { size: bytes } = await stat(files.original);
  return { ...facts, frames: proxy.frames, seconds: proxy.frames / facts.rate, bytes };
}

function fit(width: number, height: number): { width: number; height: number } {
  const scale = Math.min(1, LONGEST / Math.max(width, height));
  const even = (value: number): number => Math.max(2, Math.round((value * scale) / 2) * 2);
  return { width: even(width), height: even(height) };
}

async function picture(from: string, to: string, filter: string, at: number): Promise<void> {
  const partial = `${to}.partial.jpg`;
  await ffmpeg(
    ['-ss', at.toFixed(3), ...safeInput(from), '-frames:v', '1', '-vf', filter, '-q:v', '4', '-update', '1', partial],
    { seconds: 120 },
  );
  await rename(partial, to);
}

async function ffmpeg(
  args: string[],
  options: { seconds: number; onLine?: (line: string) => void; signal?: AbortSignal },
): Promise<void> {
  const result = await runMediaTool('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args], options);
  if (result.timedOut) throw new FootageError('Preparing the clip took too long and was stopped.');
  if (result.code !== 0)
    throw new FootageError(
      `The video breaks off or is damaged (${result.stderr.trim().split('\n').pop()?.slice(0, 160) ?? 'no reason given'}).`,
    );
}
