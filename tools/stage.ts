import { join } from 'node:path';
import { buildWeb } from './build-web';
import { startDatabase } from './postgres';
import { startProgram, stopProgram } from './processes';

/** The whole product, running: database, server and worker. */
export interface RunningProduct {
  address: string;
  database: string;
  environment: Record<string, string>;
  stop: () => Promise<void>;
}

/**
 * Starts everything. What was started is stopped again when a later part fails.
 * @param data folder for database and media.
 * @param port 0 takes any free one.
 */
export async function startProduct(root: string, data: string, port: number): Promise<RunningProduct> {
  const stops: (() => Promise<void>)[] = [];
  const stop = async (): Promise<void> => {
    for (const step of stops.reverse())
      await step().catch((error: Error) => process.stderr.write(`${error.message}\n`));
  };
  try {
    const [database] = await Promise.all([
      startDatabase(join(data, 'postgres')).then((started) => (stops.push(started.stop), started)),
      buildWeb(root),
    ]);
    const environment = {
      MERRY_SHADOW_ROOT: root,
      MERRY_SHADOW_DATA: data,
      MERRY_SHADOW_DATABASE: database.url,
      MERRY_SHADOW_PORT: String(port),
    };
    const server = await startProgram(join(root, 'apps/server/src/main.ts'), environment);
    stops.push(() => stopProgram(server.child));
    const worker = await startProgram(join(root, 'apps/server/src/worker.ts'), environment);
    stops.push(() => stopProgram(worker.child));
    return { address: String(server.hello.address), database: database.url, environment, stop };
  } catch (error) {
    await stop();
    throw error;
  }
}
