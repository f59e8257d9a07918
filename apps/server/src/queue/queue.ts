import PgBoss from 'pg-boss';

/** The work queue in PostgreSQL, shared by any number of worker processes. */
export type QueueName = 'prepare' | 'capture';
export interface QueueJobs {
  prepare: { clipId: string };
  capture: { runId: string };
}

export class Queue {
  private constructor(private readonly boss: PgBoss) {}

  static async open(database: string, onError: (error: Error) => void): Promise<Queue> {
    const boss = new PgBoss({ connectionString: database, application_name: 'merry-shadow queue', max: 4 });
    boss.on('error', onError);
    await boss.start();
    for (const name of ['prepare', 'capture'] as const) await boss.createQueue(name);
    return new Queue(boss);
  }

  async add<N extends QueueName>(name: N, job: QueueJobs[N]): Promise<void> {
    // A capture may take hours; a lost worker is noticed by its lock, not by this limit.
    await this.boss.send(name, job, { expireInHours: 23, retryLimit: 2, retryDelay: 1 });
  }

  /** Works on jobs one after the other until the queue is closed. */
  async work<N extends QueueName>(name: N, handle: (job: QueueJobs[N]) => Promise<void>): Promise<void> {
    await this.boss.work<QueueJobs[N]>(name, { batchSize: 1, pollingIntervalSeconds: 0.5 }, async ([job]) =>
      handle(job.data),
    );
  }

  close(): Promise<void> {
    return this.boss.stop({ graceful: true, timeout: 2000, wait: true });
  }
}
