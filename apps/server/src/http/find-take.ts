import { eq } from 'drizzle-orm';
import type { ClipFacts } from '@merry-shadow/contracts/clip';
import type { Database } from '../database/connect';
import { clips, takes } from '../database/schema';
import { AppError } from './errors';

/** @throws AppError when the take is not there. */
export async function findTake(db: Database, id: string): Promise<typeof takes.$inferSelect> {
  const [take] = await db.select().from(takes).where(eq(takes.id, id));
  if (!take) throw new AppError('TAKE_NOT_FOUND');
  return take;
}

/** A clip whose facts are known. @throws AppError when it is not there or not prepared. */
export async function knownClip(
  db: Database,
  id: string,
): Promise<{ name: string; facts: ClipFacts; clip: typeof clips.$inferSelect }> {
  const [clip] = await db.select().from(clips).where(eq(clips.id, id));
  if (!clip) throw new AppError('CLIP_NOT_FOUND');
  const { name, facts } = clip;
  if (!facts) throw new AppError('CLIP_NOT_READY');
  return { name, facts, clip };
}
