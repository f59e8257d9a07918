import { and, asc, eq, ne } from 'drizzle-orm';
import type { Lock } from '../database/locks';
import { clips, observationChunks, runs, takes } from '../database/schema';
import type { WorkerTools } from './worker-tools';

/** One run of a group, locked. */
export interface GroupMember {
  run: typeof runs.$inferSelect;
  take: typeof takes.$inferSelect;
  hash: string;
  lock: Lock;
  /** Stored pieces by their first frame. */
  stored: Map<number, number>;
}

/**
 * Takes a run, and with it those that wait for the same frames of the same clip with other performers: one
 * reading of the video serves them all. A run with something stored goes on alone.
 * @returns null when somebody else works on the run or it is over.
 */
export async function claimGroup(
  tools: Pick<WorkerTools, 'connection' | 'locks'>,
  runId: string,
): Promise<GroupMember[] | null> {
  const first = await claim(tools, runId, ['waiting', 'running']);
  if (!first) return null;
  const group = [first];
  if (first.stored.size > 0 || !first.run.parts.performer) return group;
  try {
    await addThoseAlike(tools, group);
    return group;
  } catch (error) {
    for (const { lock } of group) await lock.release();
    throw error;
  }
}

async function addThoseAlike(tools: Pick<WorkerTools, 'connection' | 'locks'>, group: GroupMember[]): Promise<void> {
  const [first] = group;
  const waiting = await tools.connection.db
    .select({ run: runs })
    .from(runs)
    .innerJoin(takes, eq(runs.takeId, takes.id))
    .where(and(eq(runs.state, 'waiting'), eq(takes.clipId, first.take.clipId), ne(runs.id, first.run.id)))
    .orderBy(asc(runs.createdAt));
  for (const { run } of waiting) {
    if (!isAlike(run, first.run)) continue;
    const member = await claim(tools, run.id, ['waiting']);
    if (member && member.stored.size === 0) group.push(member);
    else await member?.lock.release();
  }
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
  { connection: { db }, locks }: Pick<WorkerTools, 'connection' | 'locks'>,
  runId: string,
  states: (typeof runs.$inferSelect)['state'][],
): Promise<GroupMember | null> {
  const lock = await locks.take('run', runId);
  if (!lock) return null;
  try {
    const [row] = await db
      .select({ run: runs, take: takes, hash: clips.hash, clip: clips.state })
      .from(runs)
      .innerJoin(takes, eq(runs.takeId, takes.id))
      .innerJoin(clips, eq(takes.clipId, clips.id))
      .where(eq(runs.id, runId));
    const kept = await db
      .select({ first: observationChunks.first, frames: observationChunks.frames })
      .from(observationChunks)
      .where(eq(observationChunks.runId, runId));
    // A clip that is prepared once more is waited for: the run is taken up again by and by.
    if (row && row.clip === 'ready' && states.includes(row.run.state))
      return {
        run: row.run,
        take: row.take,
        hash: row.hash,
        lock,
        stored: new Map(kept.map((piece) => [piece.first, piece.frames])),
      };
  } catch (error) {
    await lock.release();
    throw error;
  }
  await lock.release();
  return null;
}
