import { chromium } from '@playwright/test';
import { withFakeCamera } from '../tools/fake-camera';
import { expect, test } from './product';

test('camera frames are tracked in a worker, and camera and worker stop with the room', async ({ baseURL }, info) => {
  const browser = await chromium.launch(withFakeCamera('demo/clips/flag-signals.mp4', info.outputPath('camera.mjpeg')));
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, permissions: ['camera'] });
  await page.addInitScript(() => {
    const tracks: MediaStreamTrack[] = [];
    Object.assign(window, { tracks });
    const ask = navigator.mediaDevices.getUserMedia.bind(navigator.mediaDevices);
    navigator.mediaDevices.getUserMedia = async (wanted) => {
      const stream = await ask(wanted);
      tracks.push(...stream.getTracks());
      return stream;
    };
  });
  await page.goto(`${baseURL}/live`);
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByTestId('live-seen')).toHaveText('Performer seen', { timeout: 60_000 });
  await expect
    .poll(async () => Number((await page.getByTestId('live-rate').textContent())?.match(/[\d.]+/)?.[0]), {
      timeout: 30_000,
    })
    .toBeGreaterThan(0.5);
  // What works is the worker; the page itself goes on as before.
  expect(page.workers()).toHaveLength(1);
  const tracks = () =>
    page.evaluate(() => (window as unknown as { tracks: MediaStreamTrack[] }).tracks.map((track) => track.readyState));
  expect(await tracks()).toEqual(['live']);
  await page.getByRole('button', { name: 'Stop the camera' }).click();
  await expect(page.getByRole('button', { name: 'Start the camera' })).toBeVisible();
  await expect.poll(() => page.workers().length).toBe(0);
  expect(await tracks()).toEqual(['ended']);
  // Left while the camera is just being asked for.
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await page.getByRole('link', { name: 'Takes' }).click();
  await expect.poll(tracks).toEqual(['ended', 'ended']);
  await expect.poll(() => page.workers().length).toBe(0);
  await browser.close();
});

test('a missing camera is told in a sentence', async ({ product: page }) => {
  await page.goto('/live');
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByRole('alert')).toContainText(/camera/i);
});
