import { mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { ProductionView } from '@merry-shadow/contracts/production';
import { saveResults } from './demo-results';
import { loadDemo, resultsOf, TRACKED_TAKES, untilCaptured } from './load-demo';
import { startProduct } from './stage';

/** `npm run demo-results`: tracks the demo's takes anew and keeps what comes of those that ship tracked. */
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
const data = await mkdtemp(join(root, '.data/results-'));
const product = await startProduct(root, data, 0);
try {
  await loadDemo(root, product.address, null);
  await untilCaptured(product.address);
  const { takes } = (await (await fetch(`${product.address}/api/production`)).json()) as ProductionView;
  for (const { name, tracked } of TRACKED_TAKES) {
    const take = takes.find((item) => item.name === name);
    if (!take?.captured) throw new Error(`“${name}” was not tracked.`);
    await saveResults(product.database, take.id, resultsOf(root, tracked));
  }
} finally {
  await product.stop();
  await rm(data, { recursive: true, force: true });
}
