import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FastifyInstance } from 'fastify';
import type { ProductionView } from '@merry-shadow/contracts/production';
import { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { startDatabase } from '../../../tools/postgres';
import { connect, migrateDatabase, type Connection } from '../src/database/connect';
import { Locks } from '../src/database/locks';
import { DepthCameras } from '../src/devices/depth-cameras';
import { buildApp } from '../src/http/app';
import { Footage } from '../src/media/footage';
import { captureJob } from '../src/queue/capture-job';
import { judgeJob } from '../src/queue/judge-job';
import { prepareJob } from '../src/queue/prepare-job';
import { Queue, type QueueJobs, type QueueName } from '../src/queue/queue';
import type { WorkerTools } from '../src/queue/worker-tools';
import { readSettings, type Settings } from '../src/settings';
import { SolvePool } from '../src/solve/solve-pool';

type Method = 'GET' | 'POST' | 'PATCH' | 'PUT' | 'DELETE';
export interface TestJob {
  name: QueueName;
  job: QueueJobs[QueueName];
}

/** The server in the test's own process, driven from outside, on a real database; jobs are run by the test instead of a worker. */
export class ServerInProcess {
  readonly jobs: TestJob[] = [];
  /** Takes jobs in place of the real queue. */
  readonly queue = {
    add: async (name: QueueName, job: QueueJobs[QueueName]) => void this.jobs.push({ name, job }),
  } as unknown as Queue;

  readonly complaints: Error[] = [];
  readonly stopping = new AbortController();
  readonly depthCameras = new DepthCameras((error) => void this.complaints.push(error));
  private app!: FastifyInstance;

  private constructor(
    readonly settings: Settings,
    readonly connection: Connection,
    readonly locks: Locks,
    readonly pool: TrackPool,
    readonly solver: SolvePool,
    private readonly stopDatabase: () => Promise<void>,
  ) {}

  /** What a worker in this process would work with. */
  get tools(): WorkerTools {
    const { settings, connection, locks, queue, pool, solver } = this;
    const complain = (error: Error): void => void this.complaints.push(error);
    return { settings, connection, locks, queue, pool, solver, stopping: this.stopping.signal, complain };
  }

  static async start(environment: Record<string, string> = {}): Promise<ServerInProcess> {
    const data = mkdtempSync(join(tmpdir(), 'merry-server-'));
    const database = await startDatabase(join(data, 'postgres'));
    const settings = readSettings({
      MERRY_SHADOW_ROOT: process.cwd(),
      MERRY_SHADOW_DATA: data,
      MERRY_SHADOW_DATABASE: database.url,
      MERRY_SHADOW_LOG: 'silent',
      ...environment,
    });
    const connection = connect(database.url);
    await migrateDatabase(connection, settings.root);
    // The queue's own tables are there as for a real worker.
    await (await Queue.open(database.url, () => undefined)).close();
    const locks = new Locks(database.url);
    const pool = new TrackPool('.data/networks');
    const server = new ServerInProcess(settings, connection, locks, pool, new SolvePool(), database.stop);
    const lock = await locks.wait('incoming', 'test');
    const footage = new Footage(connection, locks, server.queue, settings);
    server.app = await buildApp({
      ...server.tools,
      footage,
      depthCameras: server.depthCameras,
      scout: pool,
      incoming: { name: 'test', lock },
    });
    return server;
  }

  async stop(): Promise<void> {
    await this.app.close();
    await this.depthCameras.close();
    await this.pool.close();
    await this.solver.close();
    await this.locks.close();
    await this.connection.close();
    await this.stopDatabase();
    rmSync(this.settings.data, { recursive: true, force: true });
  }

  call(method: Method, url: string, payload?: object, headers: Record<string, string> = {}) {
    return this.app.inject({ method, url, payload, headers: { host: '127.0.0.1:4860', ...headers } });
  }

  /** Opens a port of its own. @returns the address. */
  listen(): Promise<string> {
    return this.app.listen({ host: '127.0.0.1', port: 0 });
  }

  upload(name: string, content: Buffer, query = '') {
    const edge = 'edge-of-the-part';
    const head = `--${edge}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: video/mp4\r\n\r\n`;
    const payload = Buffer.concat([Buffer.from(head), content, Buffer.from(`\r\n--${edge}--\r\n`)]);
    return this.call('POST', `/api/clips${query}`, payload, {
      'content-type': `multipart/form-data; boundary=${edge}`,
    });
  }

  async production(): Promise<ProductionView> {
    return (await this.call('GET', '/api/production')).json();
  }

  /** Works through all jobs that wait, in order. */
  async runJobs(): Promise<void> {
    for (let next = this.jobs.shift(); next; next = this.jobs.shift()) {
      const { name, job } = next;
      if (name === 'judge' && 'clipId' in job) await judgeJob(this.tools, job.clipId);
      else if ('clipId' in job) await prepareJob(this.tools, job.clipId, name === 'prepareLong');
      else await captureJob(this.tools, job.runId);
    }
  }
}
