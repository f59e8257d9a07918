import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Makes a small video with ffmpeg and gives its bytes. @param make arguments after the output's options. */
export function madeClip(name: string, args: readonly string[]): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'merry-clip-'));
  try {
    const path = join(folder, name);
    execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args, path]);
    return readFileSync(path);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** A test picture that moves. */
export const pattern = (seconds: number, size = '320x180', rate = 25): string[] => [
  ...['-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}:duration=${seconds}`, '-pix_fmt', 'yuv420p'],
];

/** `frames` pictures that a Matroska file spreads over so many seconds. */
export const timeBomb = (seconds: number): Buffer =>
  madeClip('bomb.mkv', [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=64x64:rate=1:duration=60'],
    ...['-vf', `setpts=PTS*${seconds / 60}`, '-fps_mode', 'passthrough', '-c:v', 'libx264'],
  ]);
