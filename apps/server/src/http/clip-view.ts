import { eq, inArray, or, type SQL } from 'drizzle-orm';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { Database } from '../database/connect';
import { alignments, clips } from '../database/schema';

/** Clips as lists show them, oldest first. */
export async function clipViews(db: Database, where: SQL | undefined): Promise<ClipView[]> {
  const rows = await db.select().from(clips).where(where).orderBy(clips.createdAt);
  if (rows.length === 0) return [];
  const ids = db.select({ id: clips.id }).from(clips).where(where);
  const pairs = await db
    .select()
    .from(alignments)
    .where(or(inArray(alignments.clipId, ids), inArray(alignments.otherId, ids)));
  const together = new Map<string, ClipView['together']>();
  const note = (clip: string, clipId: string, offset: number): void =>
    void together.set(clip, [...(together.get(clip) ?? []), { clipId, offset }]);
  for (const { clipId, otherId, offset } of pairs) {
    note(clipId, otherId, offset);
    note(otherId, clipId, -offset);
  }
  return rows.map(({ id, name, state, problem, progress, facts, tags, notes, judged, hash }) => ({
    ...{ id, name, state, problem, progress, facts, tags, notes, judged, hash },
    together: together.get(id) ?? [],
  }));
}

/** One clip; undefined when it is not there. */
export const clipViewOf = async (db: Database, id: string): Promise<ClipView | undefined> =>
  (await clipViews(db, eq(clips.id, id)))[0];
