import { and, eq, inArray } from 'drizzle-orm';
import type { Database } from '../database/connect';
import { runs } from '../database/schema';

/** A take's run that waits or runs. */
export const openRunOf = (takeId: string) => and(eq(runs.takeId, takeId), inArray(runs.state, ['waiting', 'running']));

/** Ends a take's open run; its worker notices. @returns whether there was one. */
export async function cancelRun(db: Database, takeId: string): Promise<boolean> {
  const stopped = await db
    .update(runs)
    .set({ state: 'cancelled', finishedAt: new Date() })
    .where(openRunOf(takeId))
    .returning({ id: runs.id });
  return stopped.length > 0;
}
