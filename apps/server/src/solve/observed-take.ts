import { and, desc, eq } from 'drizzle-orm';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { TakeSettings } from '@merry-shadow/contracts/take';
import { joinPieces, type Observations } from '@merry-shadow/core/observe/observations';
import type { Database } from '../database/connect';
import { pieces, runs, type takes } from '../database/schema';

type TakeRow = typeof takes.$inferSelect;

/** The newest finished run of a take, or undefined. */
export async function newestRun(db: Database, takeId: string): Promise<typeof runs.$inferSelect | undefined> {
  const [run] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.takeId, takeId), eq(runs.state, 'done')))
    .orderBy(desc(runs.createdAt))
    .limit(1);
  return run;
}

/** All that a run has seen, in the true time of the performance. */
export async function observedIn(db: Database, runId: string, take: TakeRow): Promise<Observations> {
  const rows = await db.select().from(pieces).where(eq(pieces.runId, runId)).orderBy(pieces.first);
  const whole = joinPieces(rows.map((row) => ({ first: row.first, observations: observationsFromBytes(row.data) })));
  // Slow-motion footage holds more frames for a second of life than for a second of film.
  return { ...whole, rate: whole.rate * TakeSettings.parse(take.settings).slowMotion };
}
