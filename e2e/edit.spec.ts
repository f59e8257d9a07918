import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { expect, openTake, production, test } from './product';

const TAKE = 'Apprentice walks the planks';
const take = async (page: Page) => (await production(page)).takes.find((item) => item.name === TAKE);
const hips = (page: Page): Promise<number> =>
  page
    .getByTestId('stage')
    .evaluate(
      (canvas) =>
        (canvas as unknown as { stage: { bonePlaces(): Record<string, number[]> } }).stage.bonePlaces().hips[1],
    );

test.afterEach(async ({ page }) => {
  await page.request.patch(`/api/takes/${(await take(page))?.id}`, {
    headers: { origin: process.env.MERRY_SHADOW_ADDRESS as string },
    data: { edits: { passes: [], plants: null } },
  });
});

test('a pass is added, compared, undone, kept over a reload and exported', async ({ product: page }) => {
  await openTake(page, TAKE);
  const before = await hips(page);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Take those found' }).waitFor({ state: 'detached' });
  await page.getByRole('button', { name: 'Add a pass' }).click();
  await page.getByText('Height of the hips', { exact: true }).click();
  const lift = page.getByLabel('Up or down');
  await lift.fill('-6');
  await lift.press('Enter');
  await expect.poll(() => hips(page)).toBeLessThan(before - 0.05);
  await lift.press('Tab');
  await page.locator('body').click({ position: { x: 600, y: 20 } });
  await page.keyboard.press('b');
  await expect.poll(() => hips(page)).toBeGreaterThan(before - 0.03);
  await expect(page.getByRole('button', { name: 'As captured' })).toBeVisible();
  await page.keyboard.press('b');
  await page.reload();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByRole('button', { name: '1 Height of the hips' })).toBeVisible();
  await expect.poll(() => hips(page)).toBeLessThan(before - 0.05);
  const wait = page.waitForEvent('download');
  await page.getByText('BVH · skeleton and motion').click();
  const motion = readBvh(readFileSync(await (await wait).path(), 'utf8'));
  expect(motion.root[1]).toBeCloseTo(await hips(page), 2);
  await page.getByRole('button', { name: 'Leave Height of the hips out' }).click();
  await expect.poll(() => hips(page)).toBeGreaterThan(before - 0.03);
  await page.keyboard.press('Control+z');
  await expect.poll(() => hips(page)).toBeLessThan(before - 0.05);
  await page.keyboard.press('Control+Shift+z');
  await expect.poll(() => hips(page)).toBeGreaterThan(before - 0.03);
});

test('a plant is chosen on the strip, drawn longer, and taken away', async ({ product: page }) => {
  await openTake(page, TAKE);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  const strip = (await page.getByTestId('strip').boundingBox()) as {
    x: number;
    y: number;
    width: number;
    height: number;
  };
  const row = strip.y + strip.height - 22;
  await page.mouse.click(strip.x + strip.width * 0.3, row);
  const plant = page.getByTestId('plant');
  await expect(plant).toContainText('right ball');
  const until = plant.getByLabel('Last frame of the plant');
  const last = Number(await until.inputValue());
  const end = strip.x + ((last + 1) / 300) * strip.width;
  await page.mouse.move(end - 1, row);
  await page.mouse.down();
  await page.mouse.move(end + 0.02 * strip.width, row, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => Number(await until.inputValue())).toBeGreaterThan(last + 3);
  await expect(page.getByText(/\d+, changed by you/)).toBeVisible();
  const count = async () => (await take(page))?.edits.plants?.length ?? 0;
  await expect.poll(count).toBeGreaterThan(5);
  const all = await count();
  await page.keyboard.press('Delete');
  await expect.poll(count).toBe(all - 1);
  await page.getByRole('button', { name: 'Take those found' }).click();
  await expect.poll(async () => (await take(page))?.edits.plants).toBeNull();
});

test('snags are told with their places, and mending one takes it away', async ({ product: page }) => {
  const demo = (await production(page)).takes.find((item) => item.name === 'Keeper sends the word');
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  const lay = (edits: object) => page.request.patch(`/api/takes/${demo?.id}`, { headers, data: { edits } });
  // A fault that is sure to be there: the keeper, whose feet nothing holds, is lifted off the floor.
  await lay({ passes: [{ pass: 'hip-height', options: { lift: 12 } }], plants: [] });
  await openTake(page, 'Keeper sends the word');
  await page.getByRole('tab', { name: /Snags\s*\d+/ }).click();
  const hover = page.getByRole('listitem').filter({ hasText: 'Body over the floor' });
  await expect(hover.first()).toContainText(/1\d cm/);
  await page.keyboard.press('End');
  await expect(page.getByTestId('frame')).not.toContainText('frame 0 ');
  const told = await hover.first().textContent();
  await hover.first().getByRole('button').first().click();
  await expect
    .poll(() => page.getByTestId('frame').textContent())
    .toContain(`frame ${/frame (\d+)/.exec(told ?? '')?.[1]} `);
  await hover.first().getByRole('button', { name: 'Mend' }).click();
  await expect(hover).toHaveCount(0);
  await expect
    .poll(async () => (await production(page)).takes.find((item) => item.id === demo?.id)?.edits.passes.length)
    .toBe(2);
  await lay({ passes: [], plants: null });
});
