import { execFileSync } from 'node:child_process';
import { chromium } from '@playwright/test';
import { CHROMIUM } from '../tools/chromium';
import { expect, test } from './product';

test('camera frames are tracked in a worker while the page stays quick', async ({ baseURL }, info) => {
  const film = info.outputPath('camera.mjpeg');
  execFileSync('ffmpeg', [
    '-y',
    '-loglevel',
    'error',
    '-i',
    'demo/clips/flag-signals.mp4',
    '-vf',
    'scale=640:360',
    '-q:v',
    '3',
    film,
  ]);
  const browser = await chromium.launch({
    ...CHROMIUM,
    args: [
      ...(CHROMIUM.args ?? []),
      '--use-fake-device-for-media-stream',
      '--use-fake-ui-for-media-stream',
      `--use-file-for-fake-video-capture=${film}`,
    ],
  });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, permissions: ['camera'] });
  await page.goto(`${baseURL}/live`);
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByTestId('live-seen')).toHaveText('Performer seen', { timeout: 60_000 });
  await expect
    .poll(async () => Number((await page.getByTestId('live-rate').textContent())?.match(/[\d.]+/)?.[0]), {
      timeout: 30_000,
    })
    .toBeGreaterThan(0.5);
  const longest = await page.evaluate(async () => {
    let most = 0;
    const observer = new PerformanceObserver((list) =>
      list.getEntries().forEach((entry) => (most = Math.max(most, entry.duration))),
    );
    observer.observe({ entryTypes: ['longtask'] });
    await new Promise((resolve) => setTimeout(resolve, 4000));
    observer.disconnect();
    return most;
  });
  info.annotations.push({ type: 'longest task, ms', description: String(longest) });
  process.stdout.write(
    `live: ${await page.getByTestId('live-rate').textContent()}, longest main-thread task ${longest.toFixed(0)} ms\n`,
  );
  if (process.env.MERRY_SHADOW_PICTURE) await page.screenshot({ path: process.env.MERRY_SHADOW_PICTURE });
  await page.getByRole('button', { name: 'Stop the camera' }).click();
  await expect(page.getByRole('button', { name: 'Start the camera' })).toBeVisible();
  await browser.close();
});

test('a missing camera is told in a sentence', async ({ product: page }) => {
  await page.goto('/live');
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByRole('alert')).toContainText(/camera/i);
});
