import { expect, openTake, test } from './product';

test('the lights go down, and stay so after a reload', async ({ product: page }) => {
  await page.goto('/footage');
  const ground = () => page.evaluate(() => getComputedStyle(document.body).backgroundColor);
  const day = await ground();
  await page.getByRole('button', { name: 'Turn the lights down' }).click();
  expect(await ground()).not.toBe(day);
  await page.reload();
  expect(await ground()).not.toBe(day);
  await page.getByRole('button', { name: 'Turn the lights on' }).click();
  expect(await ground()).toBe(day);
});

test('fonts are our own and loaded', async ({ product: page }) => {
  await page.goto('/footage');
  expect(
    await page.evaluate(
      async () => (
        await document.fonts.ready,
        Array.from(document.fonts as unknown as Iterable<FontFace>).filter((font) => font.status === 'loaded').length
      ),
    ),
  ).toBeGreaterThan(0);
  const outside: string[] = [];
  page.on(
    'request',
    (request) =>
      request.url().startsWith(process.env.MERRY_SHADOW_ADDRESS as string) ||
      request.url().startsWith('blob:') ||
      outside.push(request.url()),
  );
  await openTake(page, 'Keeper sends the word');
  expect(outside).toEqual([]);
});

test('addresses that lead nowhere say so', async ({ product: page }) => {
  await page.goto('/takes/00000000-0000-4000-8000-000000000000');
  await expect(page.getByText('This take is not there')).toBeVisible();
  await page.goto('/lantern');
  await expect(page.getByRole('heading')).toBeVisible();
});

test('the page may load nothing from elsewhere, and strangers may not call the server', async ({ page }) => {
  const response = await page.request.get('/');
  expect(response.headers()['content-security-policy']).toContain("default-src 'self'");
  expect((await page.request.get('/api/production', { headers: { host: 'elsewhere.example' } })).status()).toBe(403);
  expect(
    (await page.request.post('/api/takes', { data: {}, headers: { origin: 'http://elsewhere.example' } })).status(),
  ).toBe(403);
});

test('a small window keeps everything within reach', async ({ product: page }) => {
  await page.setViewportSize({ width: 900, height: 620 });
  await openTake(page, 'Keeper sends the word');
  for (const item of [
    page.getByRole('button', { name: 'Play' }),
    page.getByTestId('strip'),
    page.getByTestId('stage'),
  ]) {
    const box = await item.boundingBox();
    expect(box && box.x >= 0 && box.x + box.width <= 901 && box.y + box.height <= 621).toBe(true);
  }
});
