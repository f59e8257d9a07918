import PgBoss from 'pg-boss';
import type { ClientBase } from 'pg';
import { shortMessage } from '../shell/errors-in-words';

/** What jobs there are. Long ones wait in lanes of their own, so that they don't hold up short ones. */
export interface QueueJobs {
  prepare: { clipId: string };
  prepareLong: { clipId: string };
  judge: { clipId: string };
  capture: { runId: string };
  captureLong: { runId: string };
}
export type QueueName = keyof QueueJobs;
/** The queues' names in the database. */
const LANES: Record<QueueName, string> = {
  prepare: 'prepare',
  prepareLong: 'prepare-long',
  judge: 'judge',
  capture: 'capture',
  captureLong: 'capture-long',
};

/** A capture of more frames than this is long: half a minute of work on a small machine. */
const LONG_FRAMES = 1800;
export type CaptureLane = 'capture' | 'captureLong';
export const captureLane = (frames: number): CaptureLane => (frames > LONG_FRAMES ? 'captureLong' : 'capture');

/** The work queue in PostgreSQL, shared by any number of worker processes. */
export class Queue {
  private constructor(private readonly boss: PgBoss) {}

  static async open(database: string, onError: (error: Error) => void): Promise<Queue> {
    const boss = new PgBoss({ connectionString: database, application_name: 'merry-shadow queue', max: 4 });
    boss.on('error', onError);
    await boss.start();
    for (const name of Object.values(LANES)) await boss.createQueue(name);
    return new Queue(boss);
  }

  /** @param client the transaction in which the row was written that the job is for: both are there or none. */
  async add<N extends QueueName>(name: N, job: QueueJobs[N], client: ClientBase): Promise<void> {
    await this.boss.send(LANES[name], job, {
      // A capture may take hours; a lost worker is noticed by its lock, not by this limit.
      expireInHours: 23,
      retryLimit: 2,
      retryDelay: 1,
      db: { executeSql: (text, values) => client.query(text, values) },
    });
  }

  /** Works on jobs one after the other until the queue is closed. */
  async work<N extends QueueName>(name: N, handle: (job: QueueJobs[N]) => Promise<void>): Promise<void> {
    // The queue keeps what failed: a sentence, not all that a query was given.
    const brief = (error: unknown): Promise<never> => Promise.reject(new Error(shortMessage(error)));
    let worker = '';
    // The next job is asked for at once: many short ones (clips that were removed meanwhile) don't hold up the rest.
    const next = (): void => this.boss.notifyWorker(worker);
    worker = await this.boss.work<QueueJobs[N]>(LANES[name], { batchSize: 1, pollingIntervalSeconds: 0.5 }, ([job]) =>
      handle(job.data).catch(brief).finally(next),
    );
  }

  close(): Promise<void> {
    return this.boss.stop({ graceful: true, timeout: 1500, wait: true });
  }
}
