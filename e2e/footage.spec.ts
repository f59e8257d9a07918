import { writeFileSync } from 'node:fs';
import { expect, production, test } from './product';
import { makeNumberedClip } from './numbered-clip';

test('footage shows the clips of the demo with what is known of them', async ({ product: page }) => {
  await page.goto('/');
  await expect(page).toHaveURL(/\/footage$/);
  await expect(page.getByRole('heading', { name: 'Footage' })).toBeVisible();
  const card = page.getByRole('article').filter({ hasText: 'walk-the-planks.mp4' });
  for (const fact of ['10.0 s', '960 × 540 px', '30 frames/s', 'no sound']) await expect(card).toContainText(fact);
  await expect(card.getByRole('img').first()).toBeVisible();
  await card.getByRole('link', { name: 'Apprentice walks the planks' }).click();
  await expect(page.getByLabel('Name of the take')).toHaveValue('Apprentice walks the planks');
});

test('videos are brought in, bad files get a sentence, and nothing else is lost', async ({ product: page }, info) => {
  const good = info.outputPath('gull count.mp4');
  makeNumberedClip(good, 20, 25);
  const bad = info.outputPath('no-video.mp4');
  writeFileSync(bad, 'The wind took the tape. '.repeat(400));
  await page.goto('/footage');
  const names = async () => (await production(page)).clips.map((clip) => clip.name).sort();
  const before = await names();
  expect(before).toContain('rope-haul.mp4');
  await page.getByTestId('footage-files').setInputFiles([good, bad]);
  const fine = page.getByRole('article').filter({ hasText: 'gull count.mp4' });
  await expect(fine).toContainText('0.80 s');
  const broken = page.getByRole('article').filter({ hasText: 'no-video.mp4' });
  await expect(broken.getByRole('alert')).toContainText('no video that can be read');
  for (const name of ['no-video.mp4', 'gull count.mp4']) {
    await page.getByRole('button', { name: `Remove ${name}` }).click();
    await page.getByRole('button', { name: 'Remove', exact: true }).click();
    await expect(page.getByRole('article').filter({ hasText: name })).toHaveCount(0);
  }
  expect(await names()).toEqual(before);
});

test('a question can be declined by keyboard', async ({ product: page }) => {
  await page.goto('/footage');
  await page.getByRole('button', { name: 'Remove flag-signals.mp4' }).click();
  await expect(page.getByRole('dialog')).toContainText('Your own file is not touched');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('article').filter({ hasText: 'flag-signals.mp4' })).toBeVisible();
});

test('sixty videos dropped together all arrive, each with a request of its own', async ({ product: page }, info) => {
  const names = Array.from({ length: 60 }, (_, i) => `gull ${String(i).padStart(2, '0')}.mp4`);
  names.forEach((name, i) => writeFileSync(info.outputPath(name), `No video at all, number ${i}. `.repeat(50)));
  // Counted where they are sent: news of requests come late and in any order.
  await page.addInitScript(() => {
    const count = Object.assign(window, { together: 0, most: 0 });
    const send = XMLHttpRequest.prototype.send;
    XMLHttpRequest.prototype.send = function (this: XMLHttpRequest, ...body) {
      count.most = Math.max(count.most, ++count.together);
      // Before anything that the page does at its end.
      this.addEventListener('readystatechange', () => this.readyState === 4 && count.together--);
      send.apply(this, body);
    };
  });
  await page.goto('/footage');
  await page.getByTestId('footage-files').setInputFiles(names.map((name) => info.outputPath(name)));
  await expect
    .poll(async () => (await production(page)).clips.filter(({ name }) => name.startsWith('gull ')).length)
    .toBe(60);
  expect(await page.evaluate(() => (window as unknown as { most: number }).most)).toBe(3);
  await expect(page.getByRole('list', { name: 'Files on their way in' })).toHaveCount(0);
  for (const { id, name } of (await production(page)).clips)
    if (name.startsWith('gull '))
      await page.request.delete(`/api/clips/${id}`, { headers: { origin: new URL(page.url()).origin } });
});

test('a file that could not be sent stays with its sentence, and can be sent again', async ({
  product: page,
}, info) => {
  const path = info.outputPath('foghorn.mp4');
  makeNumberedClip(path, 10, 25);
  const sentence = 'The disk that holds /pier is full: about 400 MB must be free there.';
  await page.route(/\/api\/clips\?production=/, (route) =>
    route.fulfill({ status: 507, json: { error: { code: 'NO_ROOM', message: sentence } } }),
  );
  await page.goto('/footage');
  await page.getByTestId('footage-files').setInputFiles(path);
  await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
  // It stays, whichever room one goes to meanwhile.
  await page.getByRole('link', { name: 'Takes' }).click();
  await expect(page.getByRole('heading', { name: 'Takes' })).toBeVisible();
  await page.getByRole('link', { name: 'Footage' }).click();
  await expect(page.getByRole('alert').filter({ hasText: sentence })).toBeVisible();
  await page.unroute(/\/api\/clips\?production=/);
  await page.getByRole('button', { name: 'Send foghorn.mp4 again' }).click();
  await expect(page.getByRole('article').filter({ hasText: 'foghorn.mp4' })).toContainText('0.40 s');
  await page.getByRole('button', { name: 'Remove foghorn.mp4' }).click();
  await page.getByRole('button', { name: 'Remove', exact: true }).click();
  await expect(page.getByRole('article').filter({ hasText: 'foghorn.mp4' })).toHaveCount(0);
});
