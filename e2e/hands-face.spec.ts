import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { changeTake, expect, openTake, test } from './product';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import { NO_EDITS } from '@merry-shadow/core/edits/take-edits';

/** Fingers and face of the demo's call over the wind: seen near by, read in curves, cleaned up, sent on. */
const TAKE = 'Keeper calls over the wind';

/** How far the eye of the stage is from a bone, metres. */
const eyeFrom = (page: Page, bone: string): Promise<number> =>
  page.getByTestId('stage').evaluate((canvas, name) => {
    const { stage } = canvas as HTMLCanvasElement & {
      stage: { bonePlaces(): Record<string, number[]>; eyePlace(): number[] };
    };
    const place = stage.bonePlaces()[name];
    return Math.hypot(...stage.eyePlace().map((value, k) => value - place[k]));
  }, bone);

test('face and hands are looked at near by, on the stage and in the picture', async ({ product: page }) => {
  await openTake(page, TAKE);
  await page.keyboard.press('1');
  await expect.poll(() => eyeFrom(page, 'head')).toBeGreaterThan(2);
  await page.getByRole('radiogroup', { name: 'Look near by at' }).getByText('face').click();
  await expect.poll(() => eyeFrom(page, 'head')).toBeLessThan(1);
  const enlarged = (): Promise<number> =>
    page
      .locator('video')
      .evaluate((video: HTMLVideoElement) => video.getBoundingClientRect().width / video.offsetWidth);
  await expect.poll(enlarged).toBeGreaterThan(2);
  const strip = (await page.getByTestId('strip').boundingBox()) as { x: number; y: number; width: number };
  await page.mouse.click(strip.x + (150.5 / 270) * strip.width, strip.y + 40);
  await page.keyboard.press('7');
  await expect.poll(() => eyeFrom(page, 'leftHand')).toBeLessThan(0.8);
  await page.keyboard.press('1');
  await expect.poll(enlarged).toBeCloseTo(1, 1);
});

test('heights, speeds, angles, hands and face are read in a chart', async ({ product: page }) => {
  await openTake(page, TAKE);
  await page.keyboard.press('c');
  const chart = page.getByRole('img', { name: 'Readings over the take' });
  await expect(chart.locator('.scatterlayer .trace')).toHaveCount(4);
  await expect(chart).toContainText('jaw open');
  await page.getByRole('combobox', { name: 'Readings' }).fill('smile left');
  await page.getByRole('option', { name: 'mouth smile left' }).click();
  await expect(chart.locator('.scatterlayer .trace')).toHaveCount(5);
  // Each unit has a row of its own.
  for (const unit of ['Strength', 'Centimetres', 'Metres a second']) await expect(chart).toContainText(unit);
  await page.getByRole('button', { name: 'Close this dialog' }).click();
  await expect(chart).toHaveCount(0);
});

test('a half blink is told and mended, and the face leaves as a table', async ({ product: page }) => {
  // Its blinks are whole as they were read: eyes that do less make halves of them.
  const halved = EditRecord.parse({
    kind: 'pass',
    id: 'halved',
    pass: 'face-strength',
    options: { group: 'eyes', gain: 0.6 },
  });
  await changeTake(page, TAKE, { edits: { ...NO_EDITS, records: [halved] } });
  await openTake(page, TAKE);
  await page.getByRole('tab', { name: /Snags/ }).click();
  const kind = page.getByRole('button', { name: /half a blink/ });
  await kind.click();
  const rows = page.getByText(/^Half a blink$/);
  const before = await rows.count();
  expect(before).toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Mend all: half a blink' }).click();
  await expect.poll(() => rows.count()).toBeLessThan(before);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByText('Whole blinks').first()).toBeVisible();
  const wait = page.waitForEvent('download');
  await page.getByText('CSV · curves of the face').click();
  const download = await wait;
  expect(download.suggestedFilename()).toBe('Keeper-calls-over-the-wind.face.csv');
  const [header, ...lines] = readFileSync(await download.path(), 'utf8')
    .trim()
    .split('\r\n');
  expect(header.split(',')).toEqual(expect.arrayContaining(['frame', 'jawOpen', 'tongueOut', 'gazeUp']));
  expect(lines).toHaveLength(270);
  await changeTake(page, TAKE, { edits: NO_EDITS });
});

test('a frame is told to show the face at rest', async ({ product: page }) => {
  await openTake(page, TAKE);
  await expect(page.getByText('Face at rest: found in the take')).toBeVisible();
  await page.getByRole('button', { name: 'Face at rest on this frame' }).click();
  await expect(page.getByText('Face at rest on frame 0')).toBeVisible();
  await page.getByRole('button', { name: 'Find the face at rest again' }).click();
  await expect(page.getByText('Face at rest: found in the take')).toBeVisible();
});
