import { changeTake, expect, openTake, shownFrame, storedTake, test } from './product';

const TAKE = 'Keeper sends the word';

test('a joint is thinned to keys, and keys are chosen, dragged, shaped and taken out', async ({ product: page }) => {
  await openTake(page, TAKE);
  await changeTake(page, TAKE, { edits: { records: [], foundPlants: true } });
  await page.reload();
  await expect(page.getByText('BVH · skeleton and motion')).toBeVisible({ timeout: 45_000 });
  const record = async () =>
    (await storedTake(page, TAKE)).edits.records.find((item) => item.kind === 'curves') ?? null;
  const keys = async (): Promise<number[]> => (await record())?.channels.map((list) => list.length) ?? [];
  await page.keyboard.press('u');
  const desk = page.getByTestId('curve-desk');
  const summary = page.getByTestId('curve-summary');
  await expect(summary).toContainText('No keys');
  await page.getByRole('combobox', { name: 'Curves of' }).click();
  await page.getByRole('option', { name: 'left lower arm', exact: true }).click();
  await page.getByRole('button', { name: 'Thin to keys' }).click();
  await expect(summary).toContainText(/\d+ keys · at most [\d.]+° [\d.]+ cm off/);
  await expect.poll(async () => (await keys()).length).toBe(3);
  const [count] = await keys();
  expect(count).toBeGreaterThan(4);
  expect(count).toBeLessThan(135);
  // All keys of one channel in a box; dragged upwards they stay in their frames.
  await desk.getByRole('button', { name: 'x', exact: true }).dblclick();
  const canvas = desk.getByRole('application');
  const box = (await canvas.boundingBox())!;
  const drag = async (from: [number, number], to: [number, number], modifier?: 'Control' | 'Alt'): Promise<void> => {
    await page.mouse.move(box.x + from[0], box.y + from[1]);
    if (modifier) await page.keyboard.down(modifier);
    await page.mouse.down();
    await page.mouse.move(box.x + (from[0] + to[0]) / 2, box.y + (from[1] + to[1]) / 2, { steps: 3 });
    await page.mouse.move(box.x + to[0], box.y + to[1], { steps: 3 });
    await page.mouse.up();
    if (modifier) await page.keyboard.up(modifier);
  };
  await drag([1, 1], [box.width + 20, box.height + 10]);
  await expect(summary).toContainText(`${count} chosen`);
  const before = (await record())!.channels;
  await canvas.focus();
  for (let n = 0; n < 3; n++) await page.keyboard.press('ArrowUp');
  await expect.poll(async () => (await record())!.channels[0][0].value).toBeCloseTo(before[0][0].value + 3, 3);
  expect((await record())!.channels[1]).toEqual(before[1]);
  // Free keys keep their course; one value; taken out; all of it undone step by step.
  await page.getByRole('button', { name: 'Free, with handles' }).click();
  await expect.poll(async () => (await record())!.channels[0].every(({ shape }) => shape === 'free')).toBe(true);
  await page.getByRole('button', { name: 'Bring keys to one value' }).click();
  await expect
    .poll(async () => new Set((await record())!.channels[0].map(({ value }) => value.toFixed(6))).size)
    .toBe(1);
  await canvas.focus();
  await page.keyboard.press('Delete');
  await expect.poll(async () => (await keys())[0]).toBe(0);
  for (let n = 0; n < 3; n++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await record())?.channels[0][0]?.shape).toBe('smooth');
  // A press beside all keys goes to its frame, and a key is put in there.
  await drag([box.width * 0.503, box.height - 3], [box.width * 0.503, box.height - 3]);
  await expect.poll(async () => Math.abs((await shownFrame(page)) - 135)).toBeLessThan(4);
  const frame = await shownFrame(page);
  await page.getByRole('button', { name: 'Put a key in at the shown frame' }).click();
  await expect.poll(async () => (await record())!.channels[0].some((key) => key.frame === frame)).toBe(true);
  await page.getByRole('button', { name: 'Remove all keys' }).click();
  await expect.poll(record).toBeNull();
  await expect(summary).toContainText('No keys');
  // Another arm beside it: both get keys of their own, caught in one box and moved together.
  await page.getByText('Work on others, too').click();
  await page.getByRole('option', { name: 'right lower arm', exact: true }).click();
  await page.keyboard.press('Escape');
  const ofTargets = async () =>
    (await storedTake(page, TAKE)).edits.records.flatMap((item) =>
      item.kind === 'curves' ? [{ target: item.target, value: item.channels[0][0]?.value }] : [],
    );
  await page.getByRole('button', { name: 'Put a key in at the shown frame' }).click();
  await expect
    .poll(async () => (await ofTargets()).map(({ target }) => target))
    .toEqual(['leftLowerArm', 'rightLowerArm']);
  const put = await ofTargets();
  await drag([1, 1], [box.width + 20, box.height + 10]);
  await expect(summary).toContainText('2 keys, 2 chosen');
  await canvas.focus();
  await page.keyboard.press('ArrowUp');
  for (const [i, { value }] of put.entries())
    await expect.poll(async () => (await ofTargets())[i].value).toBeCloseTo(value + 1, 3);
  await page.getByRole('button', { name: 'Remove all keys' }).click();
  await expect.poll(ofTargets).toEqual([]);
});
