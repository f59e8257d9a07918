import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { needRoom } from '../apps/server/src/media/room';
import { buildWeb } from './build-web';
import { claimFolder } from './claim-folder';
import { startDatabase, stopDatabase } from './postgres';
import { startProgram } from './processes';
import { supervise, type Supervised } from './supervise';

/** The whole product, running: database, server and worker. */
export interface RunningProduct {
  address: string;
  database: string;
  /** Where bridges of depth cameras connect; null where that port is another program's. */
  depthPort: number | null;
  environment: Record<string, string>;
  /** Database, server and worker, kept running. */
  parts: Supervised[];
  stop: () => Promise<void>;
}

/** Bytes that PostgreSQL and the interface need to start. */
const START_ROOM = 200e6;

/**
 * Starts everything and keeps it running: a part that is killed is started again. What was started is stopped
 * again when a later part fails.
 * @param data folder for database and media; one product at a time may use it.
 * @param port 0 takes any free one, another one that is taken the next free one.
 * @param extra further settings of server and worker.
 * @throws Error with a sentence when the folder is in use, NoRoomError when its disk is full.
 */
export async function startProduct(
  root: string,
  data: string,
  port: number,
  extra: Record<string, string> = {},
): Promise<RunningProduct> {
  const parts: Supervised[] = [];
  const keep = (part: Supervised): void => {
    parts.push(part);
    stops.push(part.stop);
  };
  const stops: (() => unknown)[] = [];
  const stop = async (): Promise<void> => {
    for (const step of stops.splice(0).reverse())
      await Promise.resolve(step()).catch((error: Error) => process.stderr.write(`${error.message}\n`));
  };
  try {
    await mkdir(data, { recursive: true });
    const claim = await claimFolder(data);
    stops.push(claim.release);
    await needRoom(data, START_ROOM);
    const folder = join(data, 'postgres');
    const open = async (): Promise<string> => {
      const { url, process } = await startDatabase(folder);
      const again = async () => (await startDatabase(folder, Number(new URL(url).port))).process;
      keep(supervise('database', process, again, stopDatabase));
      return url;
    };
    const [database] = await Promise.all([open(), buildWeb(root)]);
    const environment: Record<string, string> = {
      MERRY_SHADOW_ROOT: root,
      MERRY_SHADOW_DATA: data,
      MERRY_SHADOW_DATABASE: database,
      MERRY_SHADOW_PORT: String(port),
      // Bridges look for a port of their own; a product on any free port takes any for them, too.
      ...(port === 0 && { MERRY_SHADOW_DEPTH_PORT: '0' }),
      ...extra,
    };
    const part = async (name: string, script: string): Promise<Record<string, unknown>> => {
      const start = () => startProgram(join(root, script), environment);
      const { child, hello } = await start();
      keep(supervise(name, child, async () => (await start()).child));
      return hello;
    };
    const { address, depthPort } = await part('server', 'apps/server/src/main.ts');
    // Pages that are open find the server again where it was.
    environment.MERRY_SHADOW_PORT = new URL(String(address)).port;
    if (typeof depthPort === 'number') environment.MERRY_SHADOW_DEPTH_PORT = String(depthPort);
    await claim.tell(String(address));
    await part('worker', 'apps/server/src/worker.ts');
    return {
      address: String(address),
      database,
      depthPort: typeof depthPort === 'number' ? depthPort : null,
      environment,
      parts,
      stop,
    };
  } catch (error) {
    await stop();
    throw error;
  }
}
