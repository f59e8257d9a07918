import { readFileSync } from 'node:fs';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { worldPositions } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { makeNumberedClip, readNumbers, readWhilePlaying } from './numbered-clip';
import { expect, openTake, production, shownFrame, test } from './product';

test('the picture shown is exactly the frame that is told', async ({ product: page }, info) => {
  const path = info.outputPath('numbers.mp4');
  makeNumberedClip(path, 200, 25);
  await page.goto('/footage');
  await page.getByTestId('footage-files').setInputFiles(path);
  await page.getByRole('article').filter({ hasText: 'numbers.mp4' }).getByRole('link').first().click();
  await expect
    .poll(() => page.locator('video').evaluate((video: HTMLVideoElement) => video.readyState))
    .toBeGreaterThan(1);
  const at = async (frame: number): Promise<void> => {
    await expect.poll(() => shownFrame(page)).toBe(frame);
    await expect.poll(() => readNumbers(page)).toEqual({ picture: frame, told: frame });
  };
  await at(0);
  for (let n = 1; n <= 12; n++) {
    await page.keyboard.press('ArrowRight');
    await at(n);
  }
  await page.keyboard.press('Shift+ArrowRight');
  await at(22);
  await page.keyboard.press('ArrowLeft');
  await at(21);
  await page.keyboard.press('End');
  await at(199);
  const strip = (await page.getByTestId('strip').boundingBox()) as { x: number; y: number; width: number };
  for (const frame of [150, 3, 77, 124]) {
    await page.mouse.click(strip.x + ((frame + 0.5) / 200) * strip.width, strip.y + 40);
    await at(frame);
  }
  // A burst of key presses loses none of them.
  for (let n = 0; n < 9; n++) void page.keyboard.press('ArrowLeft');
  await at(115);
  await page.keyboard.press('Home');
  await at(0);
  await page.keyboard.press(' ');
  const rows = await readWhilePlaying(page, 15, 25);
  await page.keyboard.press(' ');
  // While it plays, a picture may be replaced before a script can read it; what the browser announces is what counts.
  for (const { announced, told } of rows) expect(told).toBe(announced);
  expect(rows[14].told).toBeGreaterThan(rows[0].told);
  await expect.poll(() => page.locator('video').evaluate((video: HTMLVideoElement) => video.paused)).toBe(true);
  await expect
    .poll(async () => {
      const { picture, told } = await readNumbers(page);
      return picture - told;
    })
    .toBe(0);
  const clip = (await production(page)).clips.find((item) => item.name === 'numbers.mp4');
  await page.request.delete(`/api/clips/${clip?.id}`, {
    headers: { origin: process.env.MERRY_SHADOW_ADDRESS as string },
  });
});

test('the figure stands where the motion is, in lock step, and the export holds the same', async ({
  product: page,
}) => {
  await openTake(page, 'Apprentice walks the planks');
  const wait = page.waitForEvent('download');
  await page.getByText('BVH · skeleton and motion').click();
  const motion = readBvh(readFileSync(await (await wait).path(), 'utf8'));
  expect(motion.frames).toBe(300);
  const places = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const drawn = () =>
    page
      .getByTestId('stage')
      .evaluate((canvas) =>
        (canvas as unknown as { stage: { bonePlaces(): Record<string, number[]> } }).stage.bonePlaces(),
      );
  for (const key of ['Home', 'ArrowRight', 'Shift+ArrowRight', 'End']) {
    await page.keyboard.press(key);
    await expect
      .poll(async () => {
        const bones = await drawn();
        const frame = await shownFrame(page);
        const far = ['hips', 'leftHand', 'rightFoot', 'head'].map((name) => {
          const at = frame * stride + jointIndex(motion.skeleton, name) * 3;
          return Math.hypot(...bones[name].map((value, k) => value - places[at + k]));
        });
        return Math.max(...far);
      })
      .toBeLessThan(0.001);
  }
});

test('GLB comes out as a file that starts like one', async ({ product: page }) => {
  await openTake(page, 'Keeper sends the word');
  const wait = page.waitForEvent('download');
  await page.getByText('GLB · skeleton, simple body, motion').click();
  const download = await wait;
  expect(download.suggestedFilename()).toBe('Keeper-sends-the-word.glb');
  expect(
    readFileSync(await download.path())
      .subarray(0, 4)
      .toString(),
  ).toBe('glTF');
});

test('the stage is turned by dragging and brought back by the standard views', async ({ product: page }) => {
  await openTake(page, 'Keeper sends the word');
  const stage = page.getByTestId('stage');
  const eye = (): Promise<number[]> =>
    stage.evaluate((canvas) => (canvas as unknown as { stage: { eyePlace(): number[] } }).stage.eyePlace());
  const apart = async (from: number[]): Promise<number> =>
    Math.hypot(...(await eye()).map((value, k) => value - from[k]));
  const picture = (): Promise<Buffer> => stage.screenshot();
  await page.waitForTimeout(600);
  const [front, before] = [await eye(), await picture()];
  const box = (await stage.boundingBox()) as { x: number; y: number; width: number; height: number };
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 120, box.y + box.height / 2, { steps: 5 });
  await page.mouse.up();
  await expect.poll(() => apart(front)).toBeGreaterThan(0.5);
  expect((await picture()).equals(before)).toBe(false);
  await page.getByText('front', { exact: true }).click();
  await expect.poll(() => apart(front)).toBeLessThan(1e-6);
  // A change of the motion leaves the view as it is.
  await page.keyboard.press('2');
  await expect.poll(() => apart(front)).toBeGreaterThan(3);
  const left = await eye();
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Before edits' })).toBeVisible();
  expect(await apart(left)).toBeLessThan(1e-6);
  await page.keyboard.press('b');
});

test('in and out points are set by key and by dragging, and a moved range is told', async ({ product: page }) => {
  await openTake(page, 'Keeper sends the word');
  await page.keyboard.press('Home');
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(() => shownFrame(page)).toBe(10);
  await page.keyboard.press('i');
  await expect(page.getByTestId('range')).toContainText('10 –');
  await expect(page.getByText('Track it again to use the new range')).toBeVisible();
  const strip = (await page.getByTestId('strip').boundingBox()) as { x: number; y: number; width: number };
  const frames = (await production(page)).clips.find((clip) => clip.name === 'flag-signals.mp4')?.facts
    ?.frames as number;
  await page.mouse.move(strip.x + (10 / frames) * strip.width + 1, strip.y + 18);
  await page.mouse.down();
  await page.mouse.move(strip.x - 30, strip.y + 18, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByTestId('range')).toContainText('0 –');
  await expect(page.getByText('Track it again to use the new range')).toHaveCount(0);
});

test('height is given by the person and changes the motion at once', async ({ product: page }) => {
  await openTake(page, 'Keeper sends the word');
  const field = page.getByLabel('Height in metres');
  const hips = async () =>
    (
      await page
        .getByTestId('stage')
        .evaluate((canvas) =>
          (canvas as unknown as { stage: { bonePlaces(): Record<string, number[]> } }).stage.bonePlaces(),
        )
    ).hips[1];
  await page.keyboard.press('Home');
  await expect.poll(() => shownFrame(page)).toBe(0);
  // What is laid over the capture comes a moment later than the capture: three looks that are the same.
  let before = await hips();
  let same = 0;
  const settled = async (): Promise<boolean> => {
    const was = before;
    before = await hips();
    same = was === before ? same + 1 : 0;
    return same > 1;
  };
  await expect.poll(settled, { intervals: [1500] }).toBe(true);
  await field.fill('1.40');
  await field.press('Enter');
  // The motion is made anew: on a slow machine that takes a while.
  await expect.poll(hips, { timeout: 45_000 }).toBeLessThan(before * 0.9);
  await field.fill('1.78');
  await field.press('Enter');
  await expect.poll(hips, { timeout: 45_000 }).toBeCloseTo(before, 2);
});

test('a cut can be put in by hand, is shown on the strip, and taken out again', async ({ product: page }) => {
  await openTake(page, 'Apprentice walks the planks');
  await expect(page.getByText('One shot, without a cut.')).toBeVisible();
  const strip = await page.getByTestId('strip').boundingBox();
  if (!strip) throw new Error('There is no strip.');
  await page.mouse.click(strip.x + (150.5 / 300) * strip.width, strip.y + 40);
  const frame = 150;
  await expect.poll(() => shownFrame(page)).toBe(frame);
  await page.getByRole('button', { name: 'A cut at this frame' }).click();
  await expect(page.getByText('2 shots, each with a camera')).toBeVisible({ timeout: 30_000 });
  const settings = async () =>
    (await production(page)).takes.find(({ name }) => name === 'Apprentice walks the planks')?.settings.cuts;
  expect(await settings()).toEqual([frame]);
  await page.mouse.click(strip.x + 10, strip.y + 40);
  await page.getByRole('button', { name: `frame ${frame}` }).click();
  await expect.poll(() => shownFrame(page)).toBe(frame);
  await page.getByRole('button', { name: 'No cut at this frame' }).click();
  await expect(page.getByText('One shot, without a cut.')).toBeVisible({ timeout: 30_000 });
  await page.getByRole('button', { name: 'The cuts that were found' }).click();
  await expect.poll(settings).toBeNull();
});

test('what it was filmed with is said in words', async ({ product: page }) => {
  await openTake(page, 'Apprentice walks the planks');
  const view = page.getByRole('spinbutton', { name: 'Field of view in degrees' });
  await expect(view).toHaveValue('46.0');
  await page.getByRole('combobox', { name: 'Filmed with' }).click({ force: true });
  await page.getByRole('option', { name: /Phone, wide camera/ }).click();
  await expect(view).toHaveValue('104.0');
  await view.fill('46');
  await view.press('Enter');
  const settings = async () =>
    (await production(page)).takes.find(({ name }) => name === 'Apprentice walks the planks')?.settings.fieldOfView;
  await expect.poll(settings).toBe(46);
});

test('how far the camera looks down is measured on the picture, by mouse and keys', async ({ product: page }) => {
  await openTake(page, 'Keeper sends the word');
  const tilt = async (): Promise<number | null | undefined> =>
    (await production(page)).takes.find((item) => item.name === 'Keeper sends the word')?.settings.tilt;
  await page.getByRole('button', { name: 'Measure on the picture' }).click();
  const picker = page.getByRole('group', { name: 'Measure how far the camera looks down' });
  // A horizon above the middle: the camera looks down.
  const words = page.getByRole('status').filter({ hasText: 'The camera looks' });
  await expect(words).toContainText('looks down by');
  await page.getByText('Upright edge').click();
  await expect(words).toContainText('looks down by 0.0°');
  const lower = picker.getByRole('button', { name: /^End 2/ });
  const box = (await lower.boundingBox()) as { x: number; y: number; width: number; height: number };
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y, { steps: 4 });
  await page.mouse.up();
  // Upright edges that come together below are seen from above.
  const told = async (): Promise<number> => Number((await words.textContent())?.match(/looks down by ([\d.]+)°/)?.[1]);
  await expect.poll(told).toBeGreaterThan(3);
  const dragged = await told();
  await lower.focus();
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(told).toBeGreaterThan(dragged);
  const nudged = await told();
  await page.getByRole('button', { name: 'Use it' }).click();
  await expect(picker).toBeHidden();
  await expect.poll(tilt).toBeCloseTo(nudged, 1);
  await expect(page.getByText('Given by you; the floor is laid')).toBeVisible();
  await page.getByRole('button', { name: 'Measure on the picture' }).click();
  await page.keyboard.press('Escape');
  await expect(picker).toBeHidden();
  const take = (await production(page)).takes.find((item) => item.name === 'Keeper sends the word');
  await page.request.patch(`/api/takes/${take?.id}`, {
    data: { settings: { tilt: null } },
    headers: { origin: process.env.MERRY_SHADOW_ADDRESS as string },
  });
});
