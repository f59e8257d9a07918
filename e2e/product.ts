import { expect, test as base, type Page } from '@playwright/test';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { OpenTakeView, TakeChange } from '@merry-shadow/contracts/take';

/** A page at the product that was started for the tests; any error in its console fails the test. */
export const test = base.extend<{ product: Page }>({
  product: async ({ page }, use) => {
    const complaints: string[] = [];
    page.on('pageerror', (error) => complaints.push(error.message));
    page.on(
      'console',
      (message) =>
        message.type() === 'error' &&
        !message.text().includes('Failed to load resource') &&
        complaints.push(message.text()),
    );
    await use(page);
    expect(complaints).toEqual([]);
  },
});
export { expect };

export async function production(page: Page): Promise<ProductionView> {
  return (await page.request.get('/api/production')).json();
}

/** A take as it is stored, with its edits. */
export async function storedTake(page: Page, name: string): Promise<OpenTakeView> {
  const take = (await production(page)).takes.find((item) => item.name === name);
  return (await page.request.get(`/api/takes/${take?.id}`)).json();
}

/** Changes a take behind the back of the page. */
export async function changeTake(page: Page, name: string, change: TakeChange): Promise<void> {
  const take = (await production(page)).takes.find((item) => item.name === name);
  const headers = { origin: process.env.MERRY_SHADOW_ADDRESS as string };
  await page.request.patch(`/api/takes/${take?.id}`, { headers, data: change });
}

/** Opens a take's screen by its name and waits for its motion and its picture. */
export async function openTake(page: Page, name: string): Promise<void> {
  const take = (await production(page)).takes.find((item) => item.name === name);
  await page.goto(`/takes/${take?.id}`);
  await expect(page.getByText('BVH · skeleton and motion')).toBeVisible({ timeout: 45_000 });
  await expect
    .poll(() => page.locator('video').evaluate((video: HTMLVideoElement) => video.readyState))
    .toBeGreaterThan(1);
}

/** The frame that the screen says it shows. */
export async function shownFrame(page: Page): Promise<number> {
  return Number((await page.getByTestId('frame').textContent())?.match(/frame (\d+)/)?.[1]);
}
