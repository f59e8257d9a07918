import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { connect, migrateDatabase } from './database/connect';
import { buildApp } from './http/app';
import { Queue } from './queue/queue';
import { networkCache, readSettings } from './settings';

/** The server process: HTTP on loopback. Prints its address as JSON to the parent process. */
const settings = readSettings();
const complain = (error: Error): void => void process.stderr.write(`server: ${error.message}\n`);
// When the database goes away while a job is being finished, the queue library leaves its own promise
// unhandled. That must not end the process: the run is taken up again once the database is back.
process.on('unhandledRejection', (error) => complain(error instanceof Error ? error : new Error(String(error))));
const connection = connect(settings.database, complain);
await migrateDatabase(connection, settings.root);
const queue = await Queue.open(settings.database, complain);
const scout = new TrackPool(networkCache(settings), 1);
const app = await buildApp({ settings, db: connection.db, queue, scout });
const address = await app.listen({ host: '127.0.0.1', port: settings.port });
process.stdout.write(`${JSON.stringify({ address })}\n`);

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  await app.close().catch(complain);
  await scout.close().catch(complain);
  await queue.close().catch(complain);
  await connection.close().catch(complain);
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
process.on('disconnect', () => void stop());
