import { chromium } from '@playwright/test';
import type { DepthCameraList } from '@merry-shadow/contracts/depth-camera';
import { bridge, openDevice } from '../tools/bridge';
import { withFakeCamera } from '../tools/fake-camera';
import { expect, production, test } from './product';

test('camera frames are tracked in a worker, and camera and worker stop with the room', async ({ baseURL }, info) => {
  const browser = await chromium.launch(withFakeCamera('demo/clips/flag-signals.mp4', info.outputPath('camera.mjpeg')));
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, permissions: ['camera', 'microphone'] });
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
  await page.goto(`${baseURL}/record`);
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
  // Picture and sound.
  expect(await tracks()).toEqual(['live', 'live']);
  // Hands and face are followed, too, when they are asked for, and the parts say so.
  await page.getByText('Hands', { exact: true }).click();
  await page.getByText('Face', { exact: true }).click();
  for (const part of ['Left fingers', 'Right fingers', 'Face'])
    await expect(page.getByRole('listitem', { name: `${part}: seen` })).toBeVisible({ timeout: 60_000 });
  // The figure goes along.
  await page.getByText('Figure', { exact: true }).click();
  const figure = page.getByRole('img', { name: 'The figure moves as you do' });
  const before = await figure.screenshot();
  await expect.poll(async () => (await figure.screenshot()).equals(before), { timeout: 60_000 }).toBe(false);
  await page.getByRole('button', { name: 'Stop the camera' }).click();
  await expect(page.getByRole('button', { name: 'Start the camera' })).toBeVisible();
  await expect.poll(() => page.workers().length).toBe(0);
  expect(await tracks()).toEqual(['ended', 'ended']);
  // Left while the camera is just being asked for.
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await page.getByRole('link', { name: 'Takes' }).click();
  await expect.poll(tracks).toEqual(['ended', 'ended', 'ended', 'ended']);
  await expect.poll(() => page.workers().length).toBe(0);
  await browser.close();
});

test('a missing camera is told in a sentence', async ({ product: page }) => {
  await page.goto('/record');
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByRole('alert')).toContainText(/camera/i);
});

test('a try is counted down, recorded, watched, and survives a page that is gone', async ({ baseURL }, info) => {
  const browser = await chromium.launch(
    withFakeCamera('demo/clips/walk-the-planks.mp4', info.outputPath('camera.mjpeg')),
  );
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, permissions: ['camera', 'microphone'] });
  const clips = async () => (await production(page)).clips.filter(({ name }) => name.startsWith('Try '));
  await page.goto(`${baseURL}/record`);
  await page.evaluate(() =>
    localStorage.setItem('merry-shadow.record', JSON.stringify({ countDown: 3, seconds: 5, width: 640, height: 480 })),
  );
  await page.reload();
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByTestId('live-seen')).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('r');
  await expect(page.getByTestId('count-down')).toHaveText('2');
  await expect(page.getByTestId('clock')).toContainText('of 5 s');
  // It ends by itself, becomes a clip, and is watched at once.
  await expect(page.getByText(/· kept/)).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'Watch try 1' }).click();
  await expect
    .poll(() => page.locator('video.watched').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(0.1);
  await expect.poll(async () => (await clips())[0]?.state, { timeout: 60_000 }).toBe('ready');
  const [{ facts }] = await clips();
  expect(facts).toMatchObject({ width: 640, height: 360, hasSound: true });
  expect(facts?.seconds).toBeGreaterThan(4);
  // Another one, during which the page goes away: what had come by then becomes a clip.
  await page.evaluate(() => {
    const kept = JSON.parse(localStorage.getItem('merry-shadow.record') ?? '{}') as object;
    localStorage.setItem('merry-shadow.record', JSON.stringify({ ...kept, countDown: 0, seconds: 0 }));
  });
  await page.reload();
  await page.getByRole('button', { name: 'Start the camera' }).click();
  await expect(page.getByTestId('live-seen')).toBeVisible({ timeout: 60_000 });
  await page.getByRole('button', { name: 'Record', exact: true }).click();
  await expect(page.getByTestId('clock')).toContainText(/[45]\.\d s/, { timeout: 30_000 });
  const crash = await page.context().newCDPSession(page);
  // A page that crashed answers nothing.
  const gone = page.waitForEvent('crash');
  void crash.send('Page.crash').catch(() => undefined);
  await gone;
  const other = await browser.newPage();
  await expect
    .poll(
      async () =>
        (
          (await (await other.request.get(`${baseURL}/api/production`)).json()) as {
            clips: { name: string; state: string; problem: string | null }[];
          }
        ).clips
          .filter(({ name }) => name.startsWith('Try '))
          // What went wrong stands in the report.
          .map(({ state, problem }) => problem ?? state),
      { timeout: 60_000 },
    )
    .toEqual(['ready', 'ready']);
  for (const { id } of (
    (await (await other.request.get(`${baseURL}/api/production`)).json()) as { clips: { id: string; name: string }[] }
  ).clips.filter(({ name }) => name.startsWith('Try ')))
    await other.request.delete(`${baseURL}/api/clips/${id}`, { headers: { origin: baseURL as string } });
  await browser.close();
});

test('a depth camera comes, is watched and recorded, and its try has depth', async ({ page }) => {
  await page.addInitScript(() =>
    localStorage.setItem('merry-shadow.record', JSON.stringify({ source: 'depth', countDown: 0, seconds: 2 })),
  );
  await page.goto('/record');
  const start = page.getByRole('button', { name: 'Start Pier lamp (simulated)' });
  const { port, cameras } = (await (await page.request.get('/api/depth-cameras')).json()) as DepthCameraList;
  // A demo that runs already has one of its own.
  if (cameras.length === 0) await expect(page.getByTestId('no-depth-camera')).toContainText(`port ${port}`);
  const leave = cameras.length === 0 ? bridge(await openDevice('.'), port ?? 0, () => undefined) : null;
  await start.click();
  await expect(page.getByTestId('live-seen')).toHaveText('Performer seen', { timeout: 90_000 });
  await expect(page.getByRole('img', { name: 'Depth: near is light, far is dark' })).toBeVisible();
  await expect(page.getByLabel('Trunk: seen')).toBeVisible({ timeout: 20_000 });
  await page.keyboard.press('r');
  await expect(page.getByTestId('clock')).toBeVisible();
  await expect(page.getByText('2.0 s · kept')).toBeVisible({ timeout: 60_000 });
  // Replayed here while the next one is recorded.
  await page.getByRole('button', { name: 'Watch try 1' }).click({ timeout: 60_000 });
  await page.keyboard.press('r');
  await expect(page.getByText('Try 2')).toBeVisible();
  await expect
    .poll(() => page.locator('video.watched').evaluate((video: HTMLVideoElement) => video.currentTime))
    .toBeGreaterThan(0.3);
  await expect(page.getByText('2.0 s · kept')).toHaveCount(2, { timeout: 60_000 });
  const clip = (await production(page)).clips.find(({ name }) => name.startsWith('Try 1'));
  expect(clip?.facts).toMatchObject({ hasDepth: true, fieldOfView: 62 });
  leave?.();
  if (leave) await expect(page.getByRole('alert')).toContainText('The depth camera went away');
  for (const { id, name } of (await production(page)).clips)
    if (name.startsWith('Try '))
      await page.request.delete(`/api/clips/${id}`, { headers: { origin: new URL(page.url()).origin } });
});
