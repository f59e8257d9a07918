import { and, eq } from 'drizzle-orm';
import type { Connection } from '../database/connect';
import { runs } from '../database/schema';
import type { Queue } from './queue';
import { RunLock } from './run-lock';

/** Puts runs whose worker has died back into the queue; they go on behind their last stored piece. */
export async function adoptOrphans({ db, pool }: Connection, queue: Queue): Promise<number> {
  const running = await db.select({ id: runs.id }).from(runs).where(eq(runs.state, 'running'));
  let adopted = 0;
  for (const { id } of running) {
    const lock = await RunLock.take(pool, id);
    if (!lock) continue;
    try {
      const [mine] = await db
        .update(runs)
        .set({ state: 'waiting' })
        .where(and(eq(runs.id, id), eq(runs.state, 'running')))
        .returning({ id: runs.id });
      if (!mine) continue;
      await queue.add('capture', { runId: id });
      adopted++;
    } finally {
      await lock.release();
    }
  }
  return adopted;
}
