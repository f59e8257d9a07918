import { randomUUID } from 'node:crypto';
import type { FastifyInstance } from 'fastify';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { connect, migrateDatabase } from './database/connect';
import { Locks } from './database/locks';
import { DepthCameras } from './devices/depth-cameras';
import { buildApp } from './http/app';
import { Footage } from './media/footage';
import { cleanLeftovers } from './media/leftovers';
import { Queue } from './queue/queue';
import { networkCache, readSettings } from './settings';
import { complaintsOf } from './shell/complaints';
import { stopWithin } from './shell/stop-within';
import { SolvePool } from './solve/solve-pool';

/** The server process: HTTP on loopback. Prints its address and the port for depth cameras as JSON to the parent process. */
const settings = readSettings();
const complain = complaintsOf('server');
const connection = connect(settings.database, complain);
await migrateDatabase(connection, settings.root);
const locks = new Locks(settings.database, complain);
const incoming = { name: randomUUID() };
const lock = await locks.wait('incoming', incoming.name);
await cleanLeftovers(connection, locks, settings.data).catch(complain);
const queue = await Queue.open(settings.database, complain);
const scout = new TrackPool(networkCache(settings), 1);
const solver = new SolvePool();
const footage = new Footage(connection, locks, queue, settings);
const depthCameras = new DepthCameras(complain);
const app = await buildApp({
  settings,
  connection,
  locks,
  queue,
  footage,
  depthCameras,
  scout,
  solver,
  incoming: { ...incoming, lock },
});
await depthCameras.listen(settings.depthPort);
const address = await listen(app, settings.port);
process.stdout.write(`${JSON.stringify({ address, depthPort: depthCameras.port })}\n`);

stopWithin(4000, complain, [
  () => app.close(),
  () => depthCameras.close(),
  () => scout.close(),
  () => solver.close(),
  () => queue.close(),
  () => locks.close(),
  () => connection.close(),
]);

/** Listens on the port that is wanted, or on the next free one. */
async function listen(server: FastifyInstance, wanted: number): Promise<string> {
  for (let port = wanted; ; port++)
    try {
      return await server.listen({ host: '127.0.0.1', port });
    } catch (error) {
      if ((error as { code?: string }).code !== 'EADDRINUSE' || port >= Math.min(65535, wanted + 50)) throw error;
      complain(new Error(`port ${port} is in use by another program; trying ${port + 1}.`));
    }
}
