import { expect, production, test } from './product';

test('productions are made, named, switched, put away and brought back', async ({ product: page }) => {
  await page.goto('/footage');
  const menu = page.getByRole('button', { name: /^Production / });
  await expect(menu).toHaveText('Harbour Signals');
  const choose = async (item: string | RegExp): Promise<void> => {
    await menu.click();
    await page.getByRole('menuitem', { name: item }).click();
  };
  const field = page.locator('.el-message-box input');
  await choose('New production');
  await field.fill('Night Ferry');
  await page.getByRole('button', { name: 'Make it' }).click();
  await expect(menu).toHaveText('Night Ferry');
  await expect(page.getByRole('article')).toHaveCount(0);
  await choose('Rename this one');
  await field.fill('Storm Watch');
  await page.getByRole('button', { name: 'Rename' }).click();
  await expect(menu).toHaveText('Storm Watch');
  // The window keeps to it over a reload.
  await page.reload();
  await expect(menu).toHaveText('Storm Watch');
  await choose(/^Harbour Signals/);
  await expect(page.getByRole('article').first()).toBeVisible();
  await choose(/^Storm Watch/);
  await choose('Put this one away');
  await expect(menu).toHaveText('Harbour Signals');
  await choose('Bring back Storm Watch');
  await expect(menu).toHaveText('Storm Watch');
  await choose('Put this one away');
  await expect(menu).toHaveText('Harbour Signals');
  expect((await production(page)).productions.map(({ name, putAway }) => [name, putAway])).toEqual([
    ['Harbour Signals', false],
    ['Storm Watch', true],
  ]);
});

test('what another window does is seen at once, without asking', async ({ product: page }) => {
  await page.goto('/takes');
  await expect(page.getByRole('link', { name: 'Keeper hauls the rope' })).toBeVisible();
  const [take] = (await production(page)).takes;
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  const asked: string[] = [];
  page.on('request', (request) => asked.push(request.url()));
  const made = await page.request.post(`/api/clips/${take.clipId}/takes`, {
    headers,
    data: { name: 'Told by the server', fromFrame: 0, untilFrame: 9 },
  });
  await expect(page.getByText('Told by the server')).toBeVisible({ timeout: 2000 });
  const { id } = (await made.json()) as { id: string };
  await page.request.delete(`/api/takes/${id}`, { headers });
  await expect(page.getByText('Told by the server')).toHaveCount(0, { timeout: 2000 });
  // Nobody asked: but for pictures the page sent nothing.
  expect(asked.filter((url) => url.includes('/api/') && !url.includes('/poster'))).toEqual([]);
});
