import { and, asc, eq, ne } from 'drizzle-orm';
import type { Connection } from '../database/connect';
import { clips, pieces, runs, takes } from '../database/schema';
import { RunLock } from './run-lock';

/** One run of a group, locked. */
export interface GroupMember {
  run: typeof runs.$inferSelect;
  take: typeof takes.$inferSelect;
  hash: string;
  lock: RunLock;
  /** Stored pieces by their first frame. */
  stored: Map<number, number>;
}

/**
 * Takes a run, and with it those that wait for the same frames of the same clip with other performers: one
 * reading of the video serves them all. A run with something stored goes on alone.
 * @returns null when somebody else works on the run or it is over.
 */
export async function claimGroup(connection: Connection, runId: string): Promise<GroupMember[] | null> {
  const first = await claim(connection, runId, ['waiting', 'running']);
  if (!first) return null;
  const group = [first];
  if (first.stored.size > 0 || !first.run.parts.performer) return group;
  const { db } = connection;
  const waiting = await db
    .select({ run: runs })
    .from(runs)
    .innerJoin(takes, eq(runs.takeId, takes.id))
    .where(and(eq(runs.state, 'waiting'), eq(takes.clipId, first.take.clipId), ne(runs.id, runId)))
    .orderBy(asc(runs.createdAt));
  for (const { run } of waiting) {
    if (!isAlike(run, first.run)) continue;
    const member = await claim(connection, run.id, ['waiting']);
    if (member && member.stored.size === 0) group.push(member);
    else await member?.lock.release();
  }
  return group;
}

function isAlike(a: typeof runs.$inferSelect, b: typeof runs.$inferSelect): boolean {
  return (
    a.fromFrame === b.fromFrame &&
    a.untilFrame === b.untilFrame &&
    a.parts.hands === b.parts.hands &&
    a.parts.face === b.parts.face &&
    (a.parts.fine ?? false) === (b.parts.fine ?? false) &&
    !!a.parts.performer
  );
}

async function claim(
  { db, pool }: Connection,
  runId: string,
  states: (typeof runs.$inferSelect)['state'][],
): Promise<GroupMember | null> {
  const lock = await RunLock.take(pool, runId);
  if (!lock) return null;
  const [row] = await db
    .select({ run: runs, take: takes, hash: clips.hash })
    .from(runs)
    .innerJoin(takes, eq(runs.takeId, takes.id))
    .innerJoin(clips, eq(takes.clipId, clips.id))
    .where(eq(runs.id, runId));
  if (!row || !states.includes(row.run.state)) {
    await lock.release();
    return null;
  }
  const kept = await db
    .select({ first: pieces.first, frames: pieces.frames })
    .from(pieces)
    .where(eq(pieces.runId, runId));
  return { ...row, lock, stored: new Map(kept.map((piece) => [piece.first, piece.frames])) };
}
