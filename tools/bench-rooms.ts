import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { Client } from 'pg';
import type { ProductionView } from '@merry-shadow/contracts/production';
import { benchCurves } from './bench-curves';
import { CHROMIUM } from './chromium';
import { startProduct } from './stage';

/** `./run bench --rooms`: how quick rooms and answers stay with 500 clips and 2,000 takes that carry plants, and how long curves take to be drawn anew. */
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
const [CLIPS, TAKES, PLANTS] = [500, 2000, 40];
const data = await mkdtemp(join(tmpdir(), 'merry-bench-'));
const product = await startProduct(root, data, 0);
const { address } = product;
const figures: [string, string][] = [];
const median = (times: number[]): number => times.sort((a, b) => a - b)[times.length >> 1];
try {
  const form = new FormData();
  form.append('file', new Blob([await readFile(join(root, 'demo/clips/flag-signals.mp4'))]), 'flag-signals.mp4');
  await fetch(`${address}/api/clips`, { method: 'POST', body: form, headers: { origin: address } });
  const view = async (): Promise<ProductionView> => (await fetch(`${address}/api/production`)).json();
  while ((await view()).takes.length === 0) await new Promise((resolve) => setTimeout(resolve, 300));
  await fill(product.database);

  const asked = await timed(15, async () => void (await view()));
  figures.push(['everything that the lists show, ms', median(asked).toFixed(0)]);
  figures.push(['… bytes', String(JSON.stringify(await view()).length)]);
  const [take] = (await view()).takes;
  const told: number[] = [];
  for (let round = 0; round < 15; round++) told.push(await untilTold(take.id));
  figures.push(['from a change to its event, ms', median(told).toFixed(0)]);

  const browser = await chromium.launch(CHROMIUM);
  for (const room of ['footage', 'takes']) {
    const [paints, lists]: number[][] = [[], []];
    let elements = 0;
    for (let round = 0; round < 5; round++) {
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
      await page.addInitScript(watchForList);
      await page.goto(`${address}/${room}`);
      await page
        .getByText(/flag-signals/)
        .first()
        .waitFor();
      // The text may be there before it is painted.
      await page.waitForFunction(() => performance.getEntriesByName('first-contentful-paint').length > 0);
      const seen = await page.evaluate(() => [
        performance.getEntriesByName('first-contentful-paint')[0].startTime,
        (window as unknown as { listAt: number }).listAt,
      ]);
      paints.push(seen[0]);
      lists.push(seen[1]);
      elements = await page.evaluate(() => document.querySelectorAll('*').length);
      await page.close();
    }
    figures.push(
      [`${room}: first contentful paint, ms`, median(paints).toFixed(0)],
      ['… until its list is there, ms', median(lists).toFixed(0)],
      ['… elements on the page', String(elements)],
    );
  }
  figures.push(...(await benchCurves(root, browser)));
  await browser.close();
} finally {
  await product.stop();
  await rm(data, { recursive: true, force: true });
}
for (const [what, value] of figures) process.stdout.write(`${what.padEnd(52)}${value}\n`);

/** Copies the one clip and its take, and lays plants over all takes. */
async function fill(database: string): Promise<void> {
  const client = new Client({ connectionString: database });
  await client.connect();
  await client.query(
    `insert into clips (production_id, name, hash, state, progress, facts)
     select production_id, 'flag-signals ' || n || '.mp4', hash, state, progress, facts from clips, generate_series(2, $1) n`,
    [CLIPS],
  );
  const plants = Array.from({ length: PLANTS }, (_, i) => ({
    kind: 'plant',
    id: `p${i}`,
    muted: false,
    part: 'leftToe',
    from: i * 5,
    until: i * 5 + 4,
    ease: 4,
    place: null,
  }));
  await client.query(
    `insert into takes (clip_id, name, from_frame, until_frame, settings, edits)
     select c.id, c.name || ' · take ' || n, 0, 270, '{}', $2 from clips c, generate_series(1, $1) n`,
    [TAKES / CLIPS, JSON.stringify({ version: 2, foundPlants: true, records: plants })],
  );
  await client.end();
}

/** In the page: notes when the first card or row is there. */
function watchForList(): void {
  const seen = new MutationObserver(() => {
    if (!document.querySelector('main article, main li')) return;
    Object.assign(window, { listAt: performance.now() });
    seen.disconnect();
  });
  document.addEventListener('DOMContentLoaded', () => seen.observe(document.body, { childList: true, subtree: true }));
}

async function timed(rounds: number, work: () => Promise<void>): Promise<number[]> {
  const times: number[] = [];
  for (let round = 0; round < rounds; round++) {
    const begin = performance.now();
    await work();
    times.push(performance.now() - begin);
  }
  return times;
}

/** Changes a take and waits until a stream that is open tells of it. @returns milliseconds. */
async function untilTold(id: string): Promise<number> {
  const stop = new AbortController();
  const stream = (await fetch(`${address}/api/events`, { signal: stop.signal })).body?.getReader();
  const name = `Told ${performance.now()}`;
  let text = '';
  const read = async (until: string): Promise<void> => {
    while (!text.includes(until)) text += new TextDecoder().decode((await stream?.read())?.value);
  };
  await read('\n\n');
  const begin = performance.now();
  await fetch(`${address}/api/takes/${id}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json', origin: address },
    body: JSON.stringify({ name }),
  });
  await read(name);
  stop.abort();
  return performance.now() - begin;
}
