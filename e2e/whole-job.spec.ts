import { readFileSync } from 'node:fs';
import type { Locator, Page } from '@playwright/test';
import { Client } from 'pg';
import { solvedFromBytes, solvedToBytes } from '@merry-shadow/contracts/motion-bytes';
import { NO_EDITS } from '@merry-shadow/core/edits/take-edits';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { worldPositions, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import { findSnags } from '@merry-shadow/core/snags/registry';
import { JOB_FAULTS, plantFaults, type JobFault } from './planted-take';
import { changeTake, expect, openTake, production, test } from './product';

/** The whole job on a take with the usual faults, by mouse and keys alone: from what was tracked to what is sent on. Figures are printed; docs/accuracy.md tells them. */
const TAKE = 'Keeper calls over the wind';

/** Joints by which each fault is told. */
const SEEN_AT: Partial<Record<JobFault['kind'], string[]>> = {
  pop: ['rightHand'],
  hover: ['hips', 'head'],
  swap: ['leftHand', 'rightHand'],
  gap: ['hips', 'head', 'leftHand', 'rightHand'],
  shake: ['leftHand'],
  slide: ['leftFoot', 'rightFoot'],
  crossing: ['leftHand'],
};

/** How far joints are from where they would be without the faults, on average over some frames, millimetres. */
function off(motion: Motion, clean: Motion, joints: readonly string[], frames: readonly number[]): number {
  const [a, b] = [worldPositions(motion), worldPositions(clean)];
  const stride = clean.skeleton.joints.length * 3;
  let sum = 0;
  for (const frame of frames)
    for (const name of joints) {
      const at = frame * stride + jointIndex(clean.skeleton, name) * 3;
      sum += Math.hypot(a[at] - b[at], a[at + 1] - b[at + 1], a[at + 2] - b[at + 2]);
    }
  return (1000 * sum) / (frames.length * joints.length);
}

const framesOf = ({ from, until }: Pick<JobFault, 'from' | 'until'>): number[] =>
  Array.from({ length: until - from }, (_, i) => from + i);

async function exported(page: Page, id: string): Promise<Motion> {
  return readBvh(await (await page.request.get(`/api/takes/${id}/export?format=bvh`)).text());
}

test('a take with the usual faults is mended by mouse and keys, and the rest of it stays', async ({
  product: page,
}, info) => {
  // Faults are planted into the database of the product under test.
  const connectionString = process.env.MERRY_SHADOW_DATABASE;
  expect(connectionString, 'MERRY_SHADOW_DATABASE names the database of the product under test').toBeTruthy();
  const id = (await production(page)).takes.find(({ name }) => name === TAKE)?.id as string;
  await changeTake(page, TAKE, { edits: NO_EDITS });
  const clean = await exported(page, id);
  const database = new Client({ connectionString });
  await database.connect();
  const { rows } = await database.query<{ run_id: string; data: Buffer }>(
    'select m.run_id, m.data from motions m join runs r on r.id = m.run_id where r.take_id = $1',
    [id],
  );
  const keep = (data: Uint8Array): Promise<unknown> =>
    database.query('update motions set data = $1 where run_id = $2', [Buffer.from(data), rows[0].run_id]);
  try {
    await keep(solvedToBytes(plantFaults(solvedFromBytes(new Uint8Array(rows[0].data)))));
    const faulty = await exported(page, id);
    await openTake(page, TAKE);

    let steps = 0;
    const began = performance.now();
    const click = async (what: Locator): Promise<void> => void (steps++, await what.click());
    const press = async (keys: string): Promise<void> => void (steps++, await page.keyboard.press(keys));
    const snags = page.getByTestId('snag');
    await click(page.getByRole('tab', { name: /Snags/ }));
    await click(page.getByRole('button', { name: 'Mend all' }));
    const summary = page.getByText(/ of \d+ are gone\./);
    await expect(summary).toBeVisible({ timeout: 60_000 });
    const [gone, told] = (/(\d+) of (\d+)/.exec(await summary.innerText()) ?? []).slice(1).map(Number);
    // What is left are hands that were not seen: they rest as they are, and each is looked at and left.
    const left = told - gone;
    await expect(snags).toHaveCount(left);
    await page.locator('body').click({ position: { x: 700, y: 20 } });
    await press('s');
    for (let i = left; i > 0; i--) {
      await expect(page.locator('[data-testid=snag][aria-pressed=true]')).toBeVisible();
      await press('Shift+e');
      await expect(snags).toHaveCount(i - 1);
    }
    await click(page.getByRole('tab', { name: 'Track' }));
    const wait = page.waitForEvent('download');
    await click(page.getByText('BVH · skeleton and motion'));
    const mended = readBvh(readFileSync(await (await wait).path(), 'utf8'));
    const seconds = (performance.now() - began) / 1000;

    const lines = JOB_FAULTS.map((fault) => {
      const joints = SEEN_AT[fault.kind] as string[];
      const [before, after] = [faulty, mended].map((motion) => off(motion, clean, joints, framesOf(fault)));
      return { kind: fault.kind, before, after };
    });
    const rest = Array.from({ length: clean.frames }, (_, frame) => frame).filter((frame) =>
      JOB_FAULTS.every(({ from, until }) => frame < from - 15 || frame >= until + 15),
    );
    const all = clean.skeleton.joints.map(({ name }) => name);
    const unchanged = Math.max(...rest.map((frame) => off(mended, clean, all, [frame])));
    const report = [
      `The whole job: ${told} snags told, ${told - left} mended at once, ${left} left as they are; ${steps} steps, ${seconds.toFixed(1)} s.`,
      ...lines.map(({ kind, before, after }) => `${kind}: ${before.toFixed(1)} mm off, mended ${after.toFixed(1)} mm`),
      `the rest: ${unchanged.toFixed(2)} mm`,
    ].join('\n');
    // The figures belong in the log of a run.
    process.stdout.write(`${report}\n`);
    await info.attach('figures', { body: report });

    for (const { kind, before, after } of lines)
      if (kind === 'crossing') expect(after).toBeLessThan(before);
      else expect(after, kind).toBeLessThan(kind === 'shake' || kind === 'gap' ? before * 0.75 : 5);
    expect(unchanged).toBeLessThan(1);
    expect(findSnags({ motion: mended, plants: [], bridged: null }).map(({ kind }) => kind)).toEqual([]);
  } finally {
    await keep(rows[0].data);
    await database.end();
    await changeTake(page, TAKE, { edits: NO_EDITS });
  }
});
