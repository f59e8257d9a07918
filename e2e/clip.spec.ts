import { execFileSync } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { expect, production, shownFrame, test } from './product';
import { makeNumberedClip } from './numbered-clip';
import type { Page } from '@playwright/test';

/** The screen of a clip: what was judged, takes marked by key and by hand; bringing in of folders and of what is here already. */
async function openClip(page: Page, name: string): Promise<void> {
  await page.goto('/footage');
  await page.getByRole('link', { name: `Open ${name}` }).click();
  await expect
    .poll(() => page.locator('video').evaluate((video: HTMLVideoElement) => video.readyState))
    .toBeGreaterThan(1);
}
const takesOf = async (page: Page, clip: string) => {
  const { clips, takes } = await production(page);
  const id = clips.find(({ name }) => name === clip)?.id;
  return takes.filter((take) => take.clipId === id && !take.removed);
};

test('what will cost quality is told before anything is tracked, and leads to its place', async ({ product: page }) => {
  await page.goto('/footage');
  await expect(page.getByRole('article').filter({ hasText: 'rope-haul.mp4' })).toContainText(
    'Two people are in the picture',
  );
  await openClip(page, 'rope-haul.mp4');
  await page.getByRole('tab', { name: /Judged/ }).click();
  const people = page.getByRole('button', { name: /Two people are in the picture/ }).first();
  await page.locator('body').click({ position: { x: 700, y: 20 } });
  await page.keyboard.press('End');
  await expect.poll(() => shownFrame(page)).toBe(269);
  await people.click();
  await expect.poll(() => shownFrame(page)).toBeLessThan(200);
  await expect(people).toContainText('Choose the performer in the picture');
  await page.getByRole('button', { name: 'Values over time' }).click();
  await expect(
    page.getByRole('img', { name: 'Height of the performer over time' }).locator('svg').first(),
  ).toBeVisible();
  await page.keyboard.press('Escape');
});

test('takes are marked by key, moved by hand, copied, thrown away, and all of it is taken back', async ({
  product: page,
}) => {
  const clip = 'flag-signals.mp4';
  await openClip(page, clip);
  await page.getByTestId('strip').focus();
  await page.keyboard.press('Home');
  for (let i = 0; i < 3; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => shownFrame(page)).toBe(30);
  await page.keyboard.press('n');
  await expect.poll(async () => (await takesOf(page, clip)).length).toBe(2);
  const made = async () => (await takesOf(page, clip)).find(({ fromFrame }) => fromFrame > 0);
  expect(await made()).toMatchObject({ fromFrame: 30, untilFrame: 150 });
  await page.locator('body').click({ position: { x: 700, y: 20 } });
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('i');
  await expect.poll(async () => (await made())?.fromFrame).toBe(31);
  await expect(page.getByRole('button', { name: 'Undo: set in and out' })).toBeVisible();
  // Its end is dragged on the strip.
  const strip = await page.getByTestId('strip').boundingBox();
  if (!strip) throw new Error('There is no strip.');
  const at = (frame: number): number => strip.x + (frame / 270) * strip.width;
  const row = strip.y + strip.height - 10;
  await page.mouse.move(at(150) - 1, row);
  await page.mouse.down();
  await page.mouse.move(at(200), row, { steps: 6 });
  await page.mouse.up();
  await expect.poll(async () => Math.abs(((await made())?.untilFrame ?? 0) - 200)).toBeLessThan(4);
  await page.getByRole('button', { name: 'Undo: set in and out' }).click();
  await expect.poll(async () => (await made())?.untilFrame).toBe(150);
  const name = (await made())?.name as string;
  await page.getByRole('button', { name: `The best: ${name}` }).click();
  await expect.poll(async () => (await made())?.best).toBe(true);
  await page.getByRole('button', { name: `Copy ${name}` }).click();
  await expect.poll(async () => (await takesOf(page, clip)).length).toBe(3);
  for (const take of (await takesOf(page, clip)).filter(({ fromFrame }) => fromFrame > 0))
    await page.getByRole('button', { name: `Throw ${take.name} away`, exact: true }).click();
  await expect.poll(async () => (await takesOf(page, clip)).length).toBe(1);
  await page.getByRole('button', { name: 'Bring back' }).first().click();
  await expect.poll(async () => (await takesOf(page, clip)).length).toBe(2);
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  const { clips, takes } = await production(page);
  const id = clips.find((item) => item.name === clip)?.id;
  for (const take of takes)
    if (take.clipId === id && take.fromFrame > 0) await page.request.delete(`/api/takes/${take.id}`, { headers });
});

test('tags and notes are kept and searched, and winding goes both ways', async ({ product: page }) => {
  await openClip(page, 'walk-the-planks.mp4');
  await page.getByRole('tab', { name: 'About' }).click();
  await page.getByLabel('Notes').fill('The tide was low.');
  await page.getByLabel('Notes').blur();
  await page.getByRole('combobox', { name: 'Tags' }).pressSequentially('evening');
  await page.getByRole('option', { name: 'evening' }).click();
  await expect
    .poll(async () => (await production(page)).clips.find(({ name }) => name === 'walk-the-planks.mp4'))
    .toMatchObject({ notes: 'The tide was low.', tags: ['evening'] });
  await page.keyboard.press('Escape');
  await page.locator('body').click({ position: { x: 700, y: 20 } });
  await page.keyboard.press('.');
  await expect(page.getByTestId('frame')).toContainText('1× on');
  await expect.poll(() => shownFrame(page)).toBeGreaterThan(5);
  await page.keyboard.press(',');
  await page.keyboard.press(',');
  await expect(page.getByTestId('frame')).toContainText('1× back');
  await page.keyboard.press('Space');
  await page.goto('/footage');
  await page.getByLabel('Search footage').fill('tide low');
  await expect(page.getByRole('article')).toHaveCount(1);
  await expect(page.getByRole('article')).toContainText('walk-the-planks.mp4');
  const id = (await production(page)).clips.find(({ name }) => name === 'walk-the-planks.mp4')?.id;
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  await page.request.patch(`/api/clips/${id}`, { headers, data: { notes: '', tags: [] } });
});

test('a folder of pictures and films is brought in, and what is here already is said', async ({
  product: page,
}, info) => {
  const folder = info.outputPath('harbour reel');
  mkdirSync(folder, { recursive: true });
  const pictures = ['-f', 'lavfi', '-i', 'testsrc2=size=160x90:rate=10:duration=1', `${folder}/%03d.png`];
  execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', ...pictures]);
  makeNumberedClip(`${folder}/gull count.mp4`, 20, 25);
  await page.goto('/footage');
  await expect(page.getByRole('article').filter({ hasText: 'flag-signals.mp4' })).toBeVisible();
  await page.getByTestId('footage-folder').setInputFiles(folder);
  await expect(page.getByRole('dialog')).toContainText('holds 10 pictures');
  await page.locator('.el-message-box input').fill('10');
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await expect(page.getByRole('article').filter({ hasText: 'harbour reel' })).toContainText('1.00 s');
  await expect(page.getByRole('article').filter({ hasText: 'gull count.mp4' })).toContainText('0.80 s');
  await page.getByTestId('footage-files').setInputFiles(`${folder}/gull count.mp4`);
  const list = page.getByRole('list', { name: 'Files on their way in' });
  await expect(list).toContainText('The same file is already here: “gull count.mp4”.');
  await page.getByRole('button', { name: 'Put gull count.mp4 away' }).click();
  await expect(list).toHaveCount(0);
  for (const name of ['harbour reel', 'gull count.mp4']) {
    await page.getByRole('button', { name: `Remove ${name}` }).click();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(page.getByRole('article').filter({ hasText: name })).toHaveCount(0);
  }
});

test('a video that was dropped from the disk comes back when its clip is opened', async ({ product: page }) => {
  await page.goto('/disk');
  await page.getByRole('row').filter({ hasText: 'rope-haul.mp4' }).locator('.el-checkbox').click();
  const part = page.locator('.part').filter({ hasText: 'Prepared videos' });
  await part.getByRole('button', { name: 'Drop those of 1 clip' }).click();
  await page.getByRole('button', { name: 'Drop', exact: true }).click();
  await expect(page.getByRole('row').filter({ hasText: 'rope-haul.mp4' })).toContainText('–');
  await page.getByRole('link', { name: 'rope-haul.mp4' }).click();
  await expect
    .poll(() => page.locator('video').evaluate((video: HTMLVideoElement) => video.readyState), { timeout: 60_000 })
    .toBeGreaterThan(1);
});
