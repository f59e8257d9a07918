import { setPriority } from 'node:os';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { connect } from './database/connect';
import { captureJob } from './queue/capture-job';
import { adoptOrphans } from './queue/orphans';
import { prepareJob } from './queue/prepare-job';
import { Queue } from './queue/queue';
import { networkCache, readSettings } from './settings';

/** A worker process: prepares clips and captures takes, one of each at a time. */
const ADOPT_MS = 3000;
const settings = readSettings();
const complain = (error: Error): void => void process.stderr.write(`worker: ${error.message}\n`);
// The interface comes first on a small machine.
setPriority(5);
// When the database goes away while a job is being finished, the queue library leaves its own promise
// unhandled. That must not end the process: the run is taken up again once the database is back.
process.on('unhandledRejection', (error) => complain(error instanceof Error ? error : new Error(String(error))));
const connection = connect(settings.database, complain);
const queue = await Queue.open(settings.database, complain);
const pool = new TrackPool(networkCache(settings));
await queue.work('prepare', ({ clipId }) => prepareJob(connection.db, settings, clipId));
await queue.work('capture', ({ runId }) => captureJob(connection, settings, pool, runId));
const timer = setInterval(() => void adoptOrphans(connection, queue).catch(complain), ADOPT_MS);
await adoptOrphans(connection, queue);
process.stdout.write(`${JSON.stringify({ ready: true })}\n`);

let stopping = false;
async function stop(): Promise<void> {
  if (stopping) return;
  stopping = true;
  clearInterval(timer);
  // Work that is under way goes on behind its last stored piece at the next start.
  await queue.close().catch(complain);
  await connection.close().catch(complain);
  await pool.close().catch(complain);
  process.exit(0);
}
process.on('SIGTERM', () => void stop());
process.on('SIGINT', () => void stop());
process.on('disconnect', () => void stop());
