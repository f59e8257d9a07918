import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openTake, test } from './product';

/** What keeps somebody from using a screen: findings of axe that it calls serious or critical, in a line each. */
async function findings(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ target, any }) => `${id}: ${target.join(' ')} ${any[0]?.message ?? ''}`));
}

/** The same by day and by night. */
async function byDayAndNight(page: Page): Promise<void> {
  for (const turn of ['Turn the lights down', 'Turn the lights on']) {
    // Colours that change by and by have come to rest.
    await expect.poll(() => findings(page)).toEqual([]);
    await page.getByRole('button', { name: turn }).click();
  }
}

for (const [room, ready] of [
  ['footage', 'flag-signals.mp4'],
  ['takes', 'Keeper sends the word'],
  ['live', 'Live'],
] as const)
  test(`the room "${room}" can be used by all`, async ({ product: page }) => {
    await page.goto(`/${room}`);
    await expect(page.getByText(ready).first()).toBeVisible();
    await byDayAndNight(page);
  });

test('the screen of a take can be used by all', async ({ product: page }) => {
  await openTake(page, 'Apprentice walks the planks');
  await byDayAndNight(page);
  await page.getByRole('tab', { name: 'Clean up' }).click();
  await page.getByRole('button', { name: 'Add a pass' }).waitFor();
  await byDayAndNight(page);
  await page.getByRole('tab', { name: /Snags/ }).click();
  await byDayAndNight(page);
  await page.getByRole('tab', { name: 'Capture' }).click();
  await page.getByRole('button', { name: 'Measure on the picture' }).click();
  await byDayAndNight(page);
});
