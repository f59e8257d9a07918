import type { Page } from '@playwright/test';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { NO_EDITS } from '@merry-shadow/core/edits/take-edits';
import { changeTake, expect, openTake, storedTake, test } from './product';

const TAKE = 'Apprentice walks the planks';
const records = async (page: Page) => recordsOf((await storedTake(page, TAKE)).edits.records, 'pass');
const passes = async (page: Page): Promise<string[]> => (await records(page)).map(({ pass }) => pass);

async function addPass(page: Page, title: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a pass' }).click();
  await page.getByRole('menuitem', { name: title, exact: true }).click();
}
async function openEdits(page: Page): Promise<void> {
  await openTake(page, TAKE);
  await page.getByRole('tab', { name: 'Clean up' }).click();
}

test.beforeEach(({ page }) => changeTake(page, TAKE, { edits: NO_EDITS }));

test('what could not be stored is said, survives a reload, and is stored once the server answers', async ({
  product: page,
}) => {
  await openEdits(page);
  await page.route('**/api/takes/*', (route) =>
    route.request().method() === 'PATCH' ? route.abort() : route.continue(),
  );
  await addPass(page, 'Hip height');
  await expect(page.getByTestId('saving')).toHaveText('Not saved yet, trying again');
  // What the server tells meanwhile takes nothing away.
  await changeTake(page, TAKE, { settings: { slowMotion: 1.5 } });
  await changeTake(page, TAKE, { settings: { slowMotion: 1 } });
  await page.waitForTimeout(600);
  await expect(page.getByRole('button', { name: '1 Hip height' })).toBeVisible();
  expect(await passes(page)).toEqual([]);
  await page.reload();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByRole('button', { name: '1 Hip height' })).toBeVisible();
  await page.unroute('**/api/takes/*');
  await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 20_000 });
  expect(await passes(page)).toEqual(['hip-height']);
});

test('ten quick key presses on a slow line end with what is shown', async ({ product: page }) => {
  await openEdits(page);
  await addPass(page, 'Hip height');
  // Each answer comes later than the next change, and the first latest of all.
  let wait = 1500;
  await page.route('**/api/takes/*', async (route) => {
    wait = Math.max(50, wait - 400);
    await new Promise((resolve) => setTimeout(resolve, wait));
    await route.continue();
  });
  const lift = page.getByLabel('Up or down');
  await lift.focus();
  for (let n = 0; n < 10; n++) await page.keyboard.press('ArrowUp');
  await lift.press('Enter');
  const shown = Number(await lift.inputValue());
  expect(shown).not.toBe(0);
  await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 20_000 });
  expect((await records(page))[0].options.lift).toBe(shown);
  await page.keyboard.press('Tab');
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('Control+z');
  await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 20_000 });
  await expect.poll(async () => (await records(page))[0]?.options.lift).not.toBe(shown);
});

test('two windows on one take keep what both did', async ({ product: page, context }) => {
  await openEdits(page);
  const other = await context.newPage();
  await openEdits(other);
  await addPass(page, 'Hip height');
  await expect(page.getByTestId('saving')).toHaveText('Saved');
  // The other window has not heard of it when it adds its own.
  await addPass(other, 'Smooth');
  await expect(other.getByTestId('saving')).toHaveText('Saved');
  await expect.poll(async () => (await passes(page)).sort()).toEqual(['hip-height', 'smooth']);
  for (const window of [page, other])
    await expect(window.locator('ol > li, ol > *').filter({ hasText: /Hip height|Smooth/ })).toHaveCount(2);
  await other.close();
});

test('a server that is killed between two changes loses nothing', async ({ product: page }) => {
  const server = Number(process.env.MERRY_SHADOW_SERVER);
  if (!server) throw new Error('Say in MERRY_SHADOW_SERVER which process the server of MERRY_SHADOW_ADDRESS is.');
  await openEdits(page);
  await addPass(page, 'Hip height');
  await expect(page.getByTestId('saving')).toHaveText('Saved');
  process.kill(server, 'SIGKILL');
  await addPass(page, 'Smooth');
  await expect(page.getByTestId('saving')).toHaveText('Not saved yet, trying again');
  // The start command starts it again; nobody does anything.
  await expect(page.getByTestId('saving')).toHaveText('Saved', { timeout: 45_000 });
  expect(await passes(page)).toEqual(['hip-height', 'smooth']);
  await page.reload();
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await expect(page.getByRole('button', { name: '2 Smooth' })).toBeVisible();
});
