import { setPriority } from 'node:os';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { connect } from './database/connect';
import { Locks } from './database/locks';
import { captureNext } from './queue/capture-job';
import { adoptOrphans } from './queue/orphans';
import { judgeJob } from './queue/judge-job';
import { prepareJob } from './queue/prepare-job';
import { Queue } from './queue/queue';
import type { WorkerTools } from './queue/worker-tools';
import { networkCache, readSettings } from './settings';
import { complaintsOf } from './shell/complaints';
import { stopWithin } from './shell/stop-within';
import { SolvePool } from './solve/solve-pool';

/** A worker process: prepares clips and captures takes, short and long ones beside each other. */
const ADOPT_MS = 2000;
const settings = readSettings();
const complain = complaintsOf('worker');
// The interface comes first on a small machine.
setPriority(5);
const connection = connect(settings.database, complain);
const stopping = new AbortController();
const tools: WorkerTools = {
  settings,
  connection,
  locks: new Locks(settings.database, complain),
  queue: await Queue.open(settings.database, complain),
  pool: new TrackPool(networkCache(settings)),
  solver: new SolvePool(1),
  stopping: stopping.signal,
  complain,
};
const { queue } = tools;
await queue.work('prepare', ({ clipId }) => prepareJob(tools, clipId, false));
await queue.work('prepareLong', ({ clipId }) => prepareJob(tools, clipId, true));
await queue.work('judge', ({ clipId }) => judgeJob(tools, clipId));
await queue.work('capture', ({ runId }) => captureNext(tools, runId, 'capture'));
await queue.work('captureLong', ({ runId }) => captureNext(tools, runId, 'captureLong'));
let adopting: Promise<unknown> = Promise.resolve();
const adopt = (): Promise<unknown> => (adopting = adopting.then(() => adoptOrphans(connection, queue)).catch(complain));
await adopt();
const timer = setInterval(() => void adopt(), ADOPT_MS);
process.stdout.write(`${JSON.stringify({ ready: true })}\n`);

stopWithin(4000, complain, [
  () => clearInterval(timer),
  // What is under way stays open and goes on behind its last stored piece elsewhere.
  () => stopping.abort(new Error('The worker stops.')),
  () => tools.solver.close(),
  () => queue.close(),
  () => tools.pool.close(),
  () => tools.locks.close(),
  () => connection.close(),
]);
