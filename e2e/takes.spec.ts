import { expect, production, test } from './product';

test('a take is tracked with progress, cancelled and tracked again', async ({ product: page }) => {
  const demo = (await production(page)).takes.find((take) => take.name === 'Apprentice walks the planks');
  await page.request.post(`/api/clips/${demo?.clipId}/takes`, {
    data: { name: 'Second try', fromFrame: 0, untilFrame: 300 },
  });
  await page.goto('/takes');
  const row = page.getByRole('listitem').filter({ hasText: 'Second try' });
  await expect(row).toContainText('Not tracked yet');
  await row.getByRole('button', { name: 'Track' }).click();
  await expect(row).toContainText(/\d+ of 300 frames .* left/);
  // The interface stays usable meanwhile.
  await page.getByRole('link', { name: 'Footage' }).click();
  await expect(page.getByRole('heading', { name: 'Footage' })).toBeVisible();
  await page.getByRole('link', { name: 'Takes' }).click();
  await row.getByRole('button', { name: 'Cancel' }).click();
  await expect(row).toContainText('Cancelled');
  await row.getByRole('button', { name: 'Try again' }).click();
  await expect(row).toContainText('Tracked', { timeout: 60_000 });
  await page.getByRole('button', { name: 'Throw Second try away' }).click();
  await expect(row).toHaveCount(0);
  // What was thrown away is kept until it is removed for good.
  await page.getByRole('button', { name: '1 take thrown away' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('button', { name: /thrown away/ })).toHaveCount(0);
});

test('a take is renamed, and an empty name is not taken', async ({ product: page }) => {
  await page.goto('/takes');
  await page.getByRole('link', { name: 'Keeper sends the word' }).click();
  const name = page.getByLabel('Name of the take');
  await name.fill('Keeper, first go');
  await name.press('Enter');
  await expect.poll(async () => (await production(page)).takes.map((take) => take.name)).toContain('Keeper, first go');
  await name.fill('   ');
  await name.press('Enter');
  await expect(name).toHaveValue('Keeper, first go');
  await name.fill('Keeper sends the word');
  await name.press('Enter');
  await expect
    .poll(async () => (await production(page)).takes.map((take) => take.name))
    .toContain('Keeper sends the word');
});

test('everybody in the picture gets a take, and all that wait are tracked at once', async ({ product: page }) => {
  const clip = (await production(page)).clips.find((item) => item.name === 'rope-haul.mp4');
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  const made = await page.request.post(`/api/clips/${clip?.id}/takes`, {
    headers,
    data: { name: 'The last pull', fromFrame: 200, untilFrame: 230, settings: { hands: false, face: false } },
  });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/takes/${id}`);
  await page.getByRole('button', { name: 'Choose in the picture' }).click();
  await page.getByRole('button', { name: 'A take for each of the 2' }).click();
  await expect(page.getByText('2 takes now')).toBeVisible();
  await page.goto('/takes');
  // The demo leaves some takes to be tracked: they stay as they are.
  const ours = async () => (await production(page)).takes.filter((take) => take.name.startsWith('The last pull'));
  for (const { name } of await ours())
    await page.getByRole('checkbox', { name: `Choose ${name}`, exact: true }).press('Space');
  await page.getByRole('button', { name: /^Track 2 takes/ }).click();
  await expect
    .poll(async () => (await ours()).map((take) => take.run?.state), { timeout: 60_000 })
    .toEqual(['done', 'done']);
  const [first, second] = (await ours()).map((take) => take.settings.performer?.x ?? 0);
  expect(Math.abs(first - second)).toBeGreaterThan(200);
  // Both stand on one stage; who is who can be said again in another frame.
  await page.goto(`/takes/${id}`);
  await expect(page.getByText('Another performer was pointed at')).toHaveCount(0);
  await page.getByRole('button', { name: 'Show', exact: true }).click();
  await expect(page.getByRole('checkbox', { name: 'With The last pull · performer 2' })).toBeChecked();
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('End');
  await page.getByRole('button', { name: 'Say again who it is here' }).click();
  await page.getByRole('button', { name: 'Follow person 1' }).click();
  await expect(page.getByText(/The one chosen on frame \d+, \d+/)).toBeVisible();
  await expect(page.getByText('Another performer was pointed at after the take was tracked')).toBeVisible();
  await page.getByRole('button', { name: /^Track again/ }).click();
  await expect(page.getByText('Another performer was pointed at')).toHaveCount(0, { timeout: 60_000 });
  for (const take of await ours()) await page.request.delete(`/api/takes/${take.id}`, { headers });
});

test('proportions are taken from a frame that is picked, the camera tilt is given, and both are found again', async ({
  product: page,
}) => {
  const settings = async () =>
    (await production(page)).takes.find((take) => take.name === 'Keeper sends the word')?.settings;
  await page.goto('/takes');
  await page.getByRole('link', { name: 'Keeper sends the word' }).click();
  const found = page.getByRole('button', { name: /T-pose found on frames \d+–\d+/ });
  await found.click();
  await page.getByRole('button', { name: 'Measure on this frame' }).click();
  const picked = page.getByRole('button', { name: /Proportions from frame \d+/ });
  await expect(picked).toBeVisible();
  await expect.poll(async () => (await settings())?.calibration).toBeGreaterThanOrEqual(0);
  await page.getByRole('button', { name: 'Find the pose again' }).click();
  await expect(found).toBeVisible({ timeout: 30_000 });
  const tilt = page.getByRole('spinbutton', { name: 'Camera pitch: how far the camera looks down, in degrees' });
  await expect(tilt).toHaveAttribute('placeholder', /^-?\d+\.\d$/);
  await tilt.fill('9');
  await tilt.press('Enter');
  await expect.poll(async () => (await settings())?.tilt).toBe(9);
  await expect(page.getByText('Given by you; the floor is laid under the feet')).toBeVisible();
  await tilt.fill('');
  await tilt.press('Enter');
  await expect.poll(async () => (await settings())?.tilt).toBeNull();
  // The camera of the demo stands on a tripod; whether its movement is taken out is up to the person.
  await expect(page.getByText('The camera stood still.')).toBeVisible({ timeout: 30_000 });
  const steady = page.getByText('Take camera movement out');
  await steady.click();
  await expect.poll(async () => (await settings())?.steady).toBe(false);
  await expect(page.getByText('What the camera moved is left in the motion.')).toBeVisible();
  await steady.click();
  await expect.poll(async () => (await settings())?.steady).toBe(true);
});

test('several takes are chosen, get a preset and a performer together, and are put in order', async ({
  product: page,
}) => {
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  const names = ['Keeper sends the word', 'Apprentice walks the planks'];
  const order = async () => (await production(page)).takes.filter(({ removed }) => !removed).map(({ name }) => name);
  const before = (await production(page)).takes;
  await page.goto('/takes');
  await page.getByRole('button', { name: 'Performers' }).click();
  await page.getByRole('button', { name: 'Add a performer' }).click();
  const name = page.getByLabel('Name of Performer 3');
  await name.fill('The harbour master');
  await name.press('Enter');
  const height = page.getByLabel('Height of The harbour master in metres');
  await height.fill('1.91');
  await height.press('Enter');
  const master = async () => (await production(page)).performers.find((item) => item.name === 'The harbour master');
  await expect.poll(async () => (await master())?.height).toBe(1.91);
  await page.keyboard.press('Escape');
  for (const take of names) await page.getByRole('listitem').filter({ hasText: take }).locator('.el-checkbox').click();
  await expect(page.getByText('2 chosen')).toBeVisible();
  await page.locator('.el-select.performer').click();
  await page.getByRole('option', { name: 'The harbour master' }).click();
  await expect
    .poll(async () => (await production(page)).takes.filter(({ settings }) => settings.height === 1.91).length)
    .toBe(2);
  await expect(page.getByRole('listitem').filter({ hasText: names[0] })).toContainText('The harbour master');
  // By the keyboard, and by dragging the grip.
  const first = await order();
  await page.getByRole('button', { name: `Move ${first[0]}: arrow keys up and down` }).press('ArrowDown');
  await expect.poll(order).toEqual([first[1], first[0], ...first.slice(2)]);
  await expect(page.getByRole('listitem').first()).toContainText(first[1]);
  const grips = page.locator('.grip');
  const [above, below] = [await grips.nth(0).boundingBox(), await grips.nth(1).boundingBox()];
  await page.mouse.move((below?.x ?? 0) + 6, (below?.y ?? 0) + 10);
  await page.mouse.down();
  await page.mouse.move((above?.x ?? 0) + 6, (above?.y ?? 0) + 20, { steps: 12 });
  // The list makes room before the hand lets go. Who waits for it does not hold the pointer quite still: rows that glide take no notice of it.
  await expect(async () => {
    for (const y of [-6, -10]) await page.mouse.move((above?.x ?? 0) + 6, (above?.y ?? 0) + y, { steps: 3 });
    await expect(page.getByRole('listitem').first()).toContainText(first[0], { timeout: 500 });
  }).toPass({ timeout: 15_000 });
  await page.mouse.up();
  await expect.poll(order).toEqual(first);
  for (const { id, settings } of before)
    await page.request.patch(`/api/takes/${id}`, {
      headers,
      data: { settings: { height: settings.height, performedBy: settings.performedBy } },
    });
  await page.request.delete(`/api/performers/${(await master())?.id}`, { headers });
});

test('a preset is kept from one take and laid over another, and can be undone there', async ({ product: page }) => {
  const settings = async (name: string) => (await production(page)).takes.find((take) => take.name === name)?.settings;
  await page.goto('/takes');
  await page.getByRole('link', { name: 'Keeper hauls the rope' }).click();
  await page.locator('label').filter({ hasText: 'Moves' }).locator('.el-select').click();
  await page.getByRole('option', { name: 'in place' }).click();
  await expect.poll(async () => (await settings('Keeper hauls the rope'))?.manner).toBe('spot');
  await page.getByRole('button', { name: 'Presets' }).click();
  await page.getByText('Keep these settings as a preset').click();
  await page.locator('.el-message-box input').fill('On one spot');
  await page.getByRole('button', { name: 'Keep', exact: true }).click();
  await expect.poll(async () => (await production(page)).presets.map(({ name }) => name)).toEqual(['On one spot']);
  await expect(page.locator('.el-message-box')).toBeHidden();
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await settings('Keeper hauls the rope'))?.manner).toBe('about');
  await page.getByRole('link', { name: 'Takes', exact: true }).click();
  await page.getByRole('link', { name: 'Apprentice hauls the rope' }).click();
  await page.getByRole('button', { name: 'Presets' }).click();
  await page.getByText('On one spot').click();
  await expect.poll(async () => (await settings('Apprentice hauls the rope'))?.manner).toBe('spot');
  await expect(page.getByText('On one spot')).toBeHidden();
  await page.locator('body').click({ position: { x: 900, y: 20 } });
  await page.keyboard.press('Control+z');
  await expect.poll(async () => (await settings('Apprentice hauls the rope'))?.manner).toBe('about');
  const [preset] = (await production(page)).presets;
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  await page.request.delete(`/api/presets/${preset.id}`, { headers });
});
