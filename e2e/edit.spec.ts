import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import { NO_EDITS } from '@merry-shadow/core/edits/take-edits';
import { changeTake, expect, openTake, shownFrame, storedTake, test } from './product';

const TAKE = 'Apprentice walks the planks';
const records = async (page: Page) => (await storedTake(page, TAKE)).edits.records;
const hips = (page: Page): Promise<number> =>
  page
    .getByTestId('stage')
    .evaluate(
      (canvas) =>
        (canvas as unknown as { stage: { bonePlaces(): Record<string, number[]> } }).stage.bonePlaces().hips[1],
    );

test.afterEach(({ page }) =>
  changeTake(page, TAKE, { edits: NO_EDITS, fromFrame: 0, untilFrame: 300, settings: { height: 1.68 } }),
);

test('a pass is added, compared, undone, kept over a reload and exported', async ({ product: page }) => {
  await openTake(page, TAKE);
  const before = await hips(page);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Add a pass' }).click();
  await page.getByText('Hip height', { exact: true }).click();
  const lift = page.getByLabel('Up or down');
  await lift.fill('-6');
  await lift.press('Enter');
  await expect.poll(() => hips(page)).toBeLessThan(before - 0.05);
  await lift.press('Tab');
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('b');
  await expect.poll(() => hips(page)).toBeGreaterThan(before - 0.03);
  await expect(page.getByRole('button', { name: 'Before edits' })).toBeVisible();
  await page.keyboard.press('b');
  await page.reload();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByRole('button', { name: '1 Hip height' })).toBeVisible();
  await expect.poll(() => hips(page)).toBeLessThan(before - 0.05);
  const wait = page.waitForEvent('download');
  await page.getByText('BVH · skeleton and motion').click();
  const motion = readBvh(readFileSync(await (await wait).path(), 'utf8'));
  expect(motion.root[1]).toBeCloseTo(await hips(page), 2);
  await page.getByRole('button', { name: 'Leave Hip height out' }).click();
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
  await expect(page.getByText(/1 of them changed by you/)).toBeVisible();
  await expect.poll(() => records(page)).toMatchObject([{ kind: 'found-plant', part: 'rightToe' }]);
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('Delete');
  await expect(plant).toBeHidden();
  await expect.poll(() => records(page)).toMatchObject([{ kind: 'found-plant', change: null }]);
  // Undone step by step, also after the screen was left.
  await page.getByRole('link', { name: 'Takes' }).click();
  await page.getByRole('link', { name: TAKE }).click();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Undo: remove plant' }).click();
  await expect
    .poll(() => records(page))
    .toMatchObject([{ kind: 'found-plant', change: { until: expect.any(Number) } }]);
  await page.getByRole('button', { name: 'Undo: move plant' }).click();
  await expect.poll(() => records(page)).toEqual([]);
});

test('snags are told with their places, and mending one takes it away', async ({ product: page }) => {
  const lift = EditRecord.parse({ kind: 'pass', id: 'lift', pass: 'hip-height', options: { lift: 12 } });
  // A fault that is sure to be there: the keeper, whose feet nothing holds, is lifted off the floor.
  await changeTake(page, 'Keeper sends the word', { edits: { ...NO_EDITS, foundPlants: false, records: [lift] } });
  await openTake(page, 'Keeper sends the word');
  await page.getByRole('tab', { name: /Snags\s*\d+/ }).click();
  const hover = page.getByRole('listitem').filter({ hasText: 'Body over the floor' });
  await expect(hover.first()).toContainText(/1\d cm/);
  await page.keyboard.press('End');
  await expect(page.getByTestId('frame')).not.toContainText('frame 0 ');
  const told = await hover.first().textContent();
  await hover.first().getByRole('button').first().click();
  const [from, until] = (/frame (\d+)–(\d+)/.exec(told ?? '') ?? []).slice(1).map(Number);
  await expect.poll(() => shownFrame(page)).toBe(Math.floor((from + until) / 2));
  // What would mend it is tried first, and shown as a pale figure; then it is taken, or left.
  const mending = page.getByTestId('mending');
  await expect(mending).toContainText('Down to the floor');
  await expect(mending).toContainText('This one is gone');
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  const others = (await hover.count()) - 1;
  await page.keyboard.press('e');
  await expect(hover).toHaveCount(others);
  const stored = async () => (await storedTake(page, 'Keeper sends the word')).edits.records;
  await expect.poll(async () => (await stored()).length).toBe(2);
  await page.keyboard.press('Control+z');
  await expect(hover).toHaveCount(others + 1);
  await hover.first().getByRole('button').first().click();
  await page.getByRole('button', { name: 'Leave it' }).click();
  await expect(hover).toHaveCount(others);
  await expect.poll(async () => (await stored()).map(({ kind }) => kind)).toEqual(['pass', 'dismissed']);
  await page.getByRole('button', { name: 'Tell them again' }).click();
  await expect(hover).toHaveCount(others + 1);
  await page.getByRole('button', { name: 'Mend all', exact: true }).click();
  await expect(page.getByText(/of \d+ are gone/)).toBeVisible();
  await expect(hover).toHaveCount(0);
  await changeTake(page, 'Keeper sends the word', { edits: NO_EDITS });
});

test('name, settings and range are undone like edits, and the strip and plants are worked by keys', async ({
  product: page,
}) => {
  await openTake(page, TAKE);
  const stored = () => storedTake(page, TAKE);
  const before = (await stored()).settings.height;
  const height = page.getByLabel('Height in metres');
  await height.fill('1.50');
  await height.press('Enter');
  await expect.poll(async () => (await stored()).settings.height).toBe(1.5);
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('i');
  await expect.poll(async () => (await stored()).fromFrame).toBe(10);
  await page.reload();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByRole('button', { name: 'Undo: set in and out' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await stored()).fromFrame).toBe(0);
  await expect.poll(async () => (await stored()).settings.height).toBe(before);
  // The motion is made anew for the other height.
  await expect(page.getByText('BVH · skeleton and motion')).toBeVisible({ timeout: 45_000 });
  await page.keyboard.press('n');
  await expect(page.getByTestId('plant')).toBeVisible();
  await page.keyboard.press('Shift+ArrowRight');
  await page.keyboard.press('Shift+o');
  await expect.poll(() => records(page)).toMatchObject([{ kind: 'found-plant' }]);
  await page.keyboard.press('Delete');
  await expect.poll(() => records(page)).toMatchObject([{ change: null }]);
  // Nearer: single frames; whole again.
  for (let i = 0; i < 6; i++) await page.keyboard.press('+');
  await expect(page.getByRole('button', { name: 'Whole clip' })).toBeEnabled();
  await page.keyboard.press('0');
  await expect(page.getByRole('button', { name: 'Whole clip' })).toBeDisabled();
});

test('a version is named, looked at, and brought back', async ({ product: page }) => {
  await openTake(page, TAKE);
  const floor = await hips(page);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Add a pass' }).click();
  await page.getByRole('menuitem', { name: 'Hip height' }).click();
  const lift = page.getByLabel('Up or down');
  await lift.fill('-6');
  await lift.press('Enter');
  await expect.poll(() => hips(page)).toBeLessThan(floor - 0.05);
  await page.getByRole('tab', { name: 'Versions' }).click();
  const newest = page.locator('li').filter({ hasText: 'change hip height' }).first();
  await newest.getByRole('button', { name: /^Name/ }).click();
  await page
    .getByRole('textbox', { name: /called/ })
    .or(page.locator('.el-message-box input'))
    .first()
    .fill('Low walk');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect(page.getByText('Low walk')).toBeVisible();
  await expect(page.locator('.el-message-box')).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect.poll(() => hips(page)).toBeGreaterThan(floor - 0.03);
  const named = page.locator('li').filter({ hasText: 'Low walk' });
  await named.getByRole('button', { name: /^Look at/ }).click();
  await expect.poll(() => hips(page)).toBeLessThan(floor - 0.05);
  await expect(named).toContainText('Different now: 1 edit');
  await page.getByRole('button', { name: 'Back to now' }).click();
  await expect.poll(() => hips(page)).toBeGreaterThan(floor - 0.03);
  await named.getByRole('button', { name: /^Bring back/ }).click();
  await expect.poll(() => hips(page)).toBeLessThan(floor - 0.05);
  await page.keyboard.press('Control+z');
  await expect.poll(() => hips(page)).toBeGreaterThan(floor - 0.03);
});

test('a bad range is made anew from both sides, shorter or longer, and taken back', async ({ product: page }) => {
  await openTake(page, TAKE);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  for (let i = 0; i < 5; i++) await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => shownFrame(page)).toBe(50);
  const before = await hips(page);
  await page.getByRole('button', { name: 'Make anew about this frame' }).click();
  const range = page.getByTestId('between');
  await expect(range).toContainText('frames 44 to 56');
  await expect.poll(() => hips(page)).not.toBe(before);
  const last = range.getByLabel('Last frame made anew');
  await last.fill('70');
  await last.press('Enter');
  await expect.poll(() => records(page)).toMatchObject([{ kind: 'between', from: 44, until: 71 }]);
  await range.getByRole('button', { name: /^Remove/ }).click();
  await expect.poll(() => hips(page)).toBe(before);
});

test('a loop is found in a walk, cut out and closed, and taken back', async ({ product: page }) => {
  const walk = 'Apprentice walks the planks';
  await openTake(page, walk);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Find a loop' }).click();
  await expect(page.getByText(/Frames \d+ to \d+: the end is [\d.]+ cm from the beginning/)).toBeVisible();
  const passes = async () =>
    (await storedTake(page, walk)).edits.records.flatMap((record) => (record.kind === 'timing' ? [record.pass] : []));
  await expect.poll(passes).toEqual(['trim', 'close-loop']);
  await page.getByRole('button', { name: 'Undo: make a loop' }).click();
  await expect.poll(passes).toEqual([]);
});
