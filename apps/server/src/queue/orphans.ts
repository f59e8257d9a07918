import type { Connection } from '../database/connect';
import { inTransaction } from '../database/connect';
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
  for (const orphan of rows)
    if (!isHeld(orphan.kind === 'run' ? 'run' : 'prepare', orphan.lock))
      adopted += await inTransaction(connection, async (_, client) => {
        // Of several workers that see it at the same time, one takes it up; what ended meanwhile stays ended.
        const table = orphan.kind === 'run' ? 'runs' : 'clips';
        const open = orphan.kind === 'run' ? "('waiting', 'running')" : "('waiting', 'preparing')";
        const { rowCount } = await client.query(
          `update ${table} set state = 'waiting' where id = (
             select id from ${table} where id = $1 and state in ${open} for update skip locked)`,
          [orphan.id],
        );
        if (!rowCount) return 0;
        if (orphan.kind === 'clip') await queue.add('prepare', { clipId: orphan.id }, client);
        else await queue.add(captureLane({ fromFrame: 0, untilFrame: orphan.frames }), { runId: orphan.id }, client);
        return 1;
      });
  return adopted;
}

interface Orphan {
  kind: 'run' | 'clip';
  id: string;
  /** What the lock is called of somebody who works on it. */
  lock: string;
  frames: number;
}

const OPEN_WITHOUT_JOB = `
  with jobs as (
    select coalesce(data->>'runId', data->>'clipId') as id from pgboss.job where state in ('created', 'retry')
  )
  select 'run' as kind, id::text as id, id::text as lock, until_frame - from_frame as frames from runs
  where state in ('waiting', 'running') and id::text not in (select id from jobs)
  union all
  select 'clip', id::text, hash, 0 from clips
  where state in ('waiting', 'preparing') and id::text not in (select id from jobs)`;
