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
  expect((await production(page)).clips.map((clip) => clip.name).sort()).toEqual([
    'flag-signals.mp4',
    'rope-haul.mp4',
    'walk-the-planks.mp4',
  ]);
});

test('a question can be declined by keyboard', async ({ product: page }) => {
  await page.goto('/footage');
  await page.getByRole('button', { name: 'Remove flag-signals.mp4' }).click();
  await expect(page.getByRole('dialog')).toContainText('Your own file is not touched');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expect(page.getByRole('article').filter({ hasText: 'flag-signals.mp4' })).toBeVisible();
});
