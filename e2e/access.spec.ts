import AxeBuilder from '@axe-core/playwright';
import type { Page } from '@playwright/test';
import { expect, openTake, test } from './product';

/** What keeps somebody from using a screen: findings of axe that it calls serious or critical, in a line each. */
async function findings(page: Page, part = 'body'): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page }).include(part).analyze();
  return violations
    .filter(({ impact }) => impact === 'serious' || impact === 'critical')
    .flatMap(({ id, nodes }) => nodes.map(({ target, any }) => `${id}: ${target.join(' ')} ${any[0]?.message ?? ''}`));
}

/** The same by day and by night. */
async function byDayAndNight(page: Page, part?: string): Promise<void> {
  for (const turn of ['Turn the lights down', 'Turn the lights on']) {
    // Colours that change by and by have come to rest.
    await expect.poll(() => findings(page, part)).toEqual([]);
    await page.getByRole('button', { name: turn }).click();
  }
}

for (const [room, ready] of [
  ['footage', 'flag-signals.mp4'],
  ['takes', 'Keeper sends the word'],
  ['record', 'Record'],
  ['disk', 'Originals'],
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
  await byDayAndNight(page, 'aside');
  await page.getByRole('tab', { name: /Snags/ }).click();
  await byDayAndNight(page, 'aside');
  await page.getByRole('tab', { name: 'Versions' }).click();
  await byDayAndNight(page, 'aside');
  await page.getByRole('tab', { name: 'Track', exact: true }).click();
  await page.getByRole('button', { name: 'Measure on the picture' }).click();
  await byDayAndNight(page, '.panes');
});

test('the screen of a clip can be used by all', async ({ product: page }) => {
  await page.goto('/footage');
  await page.getByRole('link', { name: 'Open rope-haul.mp4' }).click();
  await expect(page.getByRole('tab', { name: /Judged/ })).toBeVisible();
  await byDayAndNight(page);
  await page.getByRole('tab', { name: /Judged/ }).click();
  await byDayAndNight(page, 'aside');
  await page.getByRole('tab', { name: 'About' }).click();
  await byDayAndNight(page, 'aside');
});

test('the list of keys and the palette can be used by all, and by keyboard', async ({ product: page }) => {
  await page.goto('/footage');
  await expect(page.getByText('flag-signals.mp4').first()).toBeVisible();
  await page.keyboard.press('Shift+?');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeVisible();
  await expect.poll(() => findings(page)).toEqual([]);
  // Another key for the lights, and back.
  await page.getByRole('button', { name: 'Keys of Lights on or down' }).click();
  await page.keyboard.press('j');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog', { name: 'Keys' })).toBeHidden();
  await page.keyboard.press('j');
  await expect(page.getByRole('button', { name: 'Turn the lights on' })).toBeVisible();
  await page.keyboard.press('l');
  await expect(page.getByRole('button', { name: 'Turn the lights on' })).toBeVisible();
  await page.keyboard.press('/');
  const field = page.getByRole('combobox', { name: 'Find a command' });
  await expect(field).toBeFocused();
  await expect.poll(() => findings(page)).toEqual([]);
  await field.fill('takes');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/takes$/);
  await expect(page).toHaveTitle(/^Takes/);
});

test('no shortcut fires from inside a control that uses the key', async ({ product: page }) => {
  await openTake(page, 'Apprentice walks the planks');
  const range = await page.getByTestId('range').textContent();
  await page.getByRole('combobox', { name: 'Moves' }).focus();
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('o');
  await page.keyboard.press('Escape');
  expect(await page.getByTestId('range').textContent()).toBe(range);
  const marks = page.getByRole('checkbox', { name: 'Marks' });
  await marks.focus();
  await page.keyboard.press(' ');
  await expect(marks).not.toBeChecked();
  await expect(page.getByRole('button', { name: 'Play' })).toBeVisible();
});
