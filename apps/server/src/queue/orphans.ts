import { inTransaction, type Connection } from '../database/connect';
import { heldLocks } from '../database/locks';
import { captureLane, type Queue } from './queue';

/**
 * Puts what is open, but on which nobody works and for which no job waits, back into the queue: runs and clips
 * whose worker has died, that waited for room on the disk, or whose job went away. Captures go on behind their
 * last stored piece.
 * @returns how many.
 */
export async function adoptOrphans(connection: Connection, queue: Queue): Promise<number> {
  const { rows } = await connection.pool.query<Orphan>(OPEN_WITHOUT_JOB);
  if (rows.length === 0) return 0;
  const isHeld = await heldLocks(connection.pool);
  let adopted = 0;
  for (const { kind, id, lock, frames } of rows) {
    const { locked, table, open, again } = KINDS[kind];
    if (isHeld(locked, lock)) continue;
    await inTransaction(connection, async (_, client) => {
      // Of several workers that see it at the same time, one takes it up; what ended meanwhile stays ended.
      const { rowCount } = await client.query(
        `update ${table} set ${again} where id = (
           select id from ${table} where id = $1 and ${open} for update skip locked)`,
        [id],
      );
      if (!rowCount) return;
      if (kind === 'clip') await queue.add('prepare', { clipId: id }, client);
      else if (kind === 'judging') await queue.add('judge', { clipId: id }, client);
      else await queue.add(captureLane(frames), { runId: id }, client);
      adopted++;
    });
  }
  return adopted;
}

interface Orphan {
  kind: 'run' | 'clip' | 'judging';
  id: string;
  /** What the lock is called of somebody who works on it. */
  lock: string;
  frames: number;
}

/** Which lock somebody holds who works on it, its table, when it is open, and how it waits again. */
const KINDS = {
  run: { locked: 'run', table: 'runs', open: "state in ('waiting', 'running')", again: "state = 'waiting'" },
  clip: { locked: 'prepare', table: 'clips', open: "state in ('waiting', 'preparing')", again: "state = 'waiting'" },
  judging: { locked: 'judge', table: 'clips', open: "state = 'ready' and judged is null", again: 'judged = null' },
} as const;

const OPEN_WITHOUT_JOB = `
  with jobs as (
    select coalesce(data->>'runId', data->>'clipId') as id from pgboss.job where state in ('created', 'retry')
  )
  select 'run' as kind, id::text as id, id::text as lock, until_frame - from_frame as frames from runs
  where state in ('waiting', 'running') and id::text not in (select id from jobs)
  union all
  select 'clip', id::text, hash, 0 from clips
  where state in ('waiting', 'preparing') and id::text not in (select id from jobs)
  union all
  select 'judging', id::text, hash, 0 from clips
  where state = 'ready' and judged is null and id::text not in (select id from jobs)`;
