import { mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { loadDemo, untilCaptured } from '../tools/load-demo';
import { startProduct } from '../tools/stage';

/**
 * Starts the whole product on a fresh database with the demo tracked; stops it after the tests. With MERRY_SHADOW_ADDRESS set, one that runs
 * already, with the demo in it, is tested.
 */
export default async function startForTests(): Promise<() => Promise<void>> {
  if (process.env.MERRY_SHADOW_ADDRESS) return async () => undefined;
  const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
  const data = await mkdtemp(join(root, '.data/e2e-'));
  const product = await startProduct(root, data, 0);
  process.env.MERRY_SHADOW_ADDRESS = product.address;
  // One test plants faults into a motion.
  process.env.MERRY_SHADOW_DATABASE = product.database;
  // One test kills the server.
  process.env.MERRY_SHADOW_SERVER = String(product.parts.find(({ name }) => name === 'server')?.current()?.pid);
  await loadDemo(root, product.address, product.database, true);
  await untilCaptured(product.address);
  return async () => {
    await product.stop();
    await rm(data, { recursive: true, force: true });
  };
}
