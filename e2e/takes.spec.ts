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
  await page.getByRole('button', { name: 'Remove Second try' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(row).toHaveCount(0);
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
  await page.getByRole('button', { name: 'Track the 2 that wait for it' }).click();
  const ours = async () => (await production(page)).takes.filter((take) => take.name.startsWith('The last pull'));
  await expect
    .poll(async () => (await ours()).map((take) => take.run?.state), { timeout: 60_000 })
    .toEqual(['done', 'done']);
  const [first, second] = (await ours()).map((take) => take.settings.performer?.x ?? 0);
  expect(Math.abs(first - second)).toBeGreaterThan(200);
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
