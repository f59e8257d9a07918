import { mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { loadDemo, untilCaptured } from '../tools/load-demo';
import { startProduct } from '../tools/stage';

/** Starts the whole product on a fresh database with the demo captured; stops it after the tests. */
export default async function startForTests(): Promise<() => Promise<void>> {
  const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
  const data = await mkdtemp(join(root, '.data/e2e-'));
  const product = await startProduct(root, data, 0);
  process.env.MERRY_SHADOW_ADDRESS = product.address;
  await loadDemo(root, product.address);
  await untilCaptured(product.address);
  return async () => {
    await product.stop();
    await rm(data, { recursive: true, force: true });
  };
}
