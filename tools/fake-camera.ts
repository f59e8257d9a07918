import { execFileSync } from 'node:child_process';
import type { LaunchOptions } from '@playwright/test';
import { CHROMIUM } from './chromium';

/**
 * How Chromium is started with a webcam that shows a clip over and over, and that needs nobody's permission.
 * @param film where the clip is put as pictures that Chromium takes for a camera's.
 */
export function withFakeCamera(clip: string, film: string): LaunchOptions {
  const size = ['-vf', 'scale=640:360', '-q:v', '3'];
  execFileSync('ffmpeg', ['-y', '-loglevel', 'error', '-i', clip, ...size, film]);
  const camera = ['--use-fake-device-for-media-stream', '--use-fake-ui-for-media-stream'];
  return { ...CHROMIUM, args: [...(CHROMIUM.args ?? []), ...camera, `--use-file-for-fake-video-capture=${film}`] };
}
