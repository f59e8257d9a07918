import { and, eq, inArray } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { rm } from 'node:fs/promises';
import { MediaDrop, MediaView, type MediaShare } from '@merry-shadow/contracts/media';
import { clips, prepared, productions } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { freeBytes } from '../media/room';
import type { AppParts } from './app-parts';

/** Runs by what they are for the disk: what was tracked last of a take, what is open, and what is older than that. */
const RUN_PARTS = `
  select runs.id, takes.clip_id, case
    when runs.id = (select id from runs done where done.take_id = takes.id and state = 'done' order by created_at desc limit 1)
      then 'tracked'
    when runs.state in ('waiting', 'running') then 'open' else 'older' end as part
  from runs join takes on takes.id = runs.take_id`;

/** What takes how much on the disk; what can be made again is dropped, and comes back when it is needed. */
export function mediaRoutes({ connection, locks, settings }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;

  /** Bytes that were tracked of each clip: last, and before that. */
  async function trackedBytes(): Promise<Map<string, { tracked: number; older: number }>> {
    const { rows } = await connection.pool.query<{ clip: string; tracked: string; older: string }>(`
      with parts as (${RUN_PARTS})
      select parts.clip_id as clip, coalesce(sum(size) filter (where part = 'tracked'), 0) as tracked,
        coalesce(sum(size) filter (where part = 'older'), 0) as older
      from parts join lateral
        (select sum(pg_column_size(data)) as size from observation_chunks where run_id = parts.id) chunks on true
      group by 1`);
    return new Map(rows.map(({ clip, tracked, older }) => [clip, { tracked: Number(tracked), older: Number(older) }]));
  }

  async function dropPrepared(ids: readonly string[]): Promise<void> {
    const rows = await db
      .selectDistinct({ hash: clips.hash })
      .from(clips)
      .where(and(inArray(clips.id, [...ids]), eq(clips.state, 'ready')));
    for (const { hash } of rows) {
      const lock = await locks.wait('files', hash);
      try {
        // What was measured stays: it is small, and lists show it.
        await db.update(prepared).set({ sizes: [] }).where(eq(prepared.hash, hash));
        await rm(clipFiles(settings.data, hash).proxy, { force: true });
      } finally {
        await lock.release();
      }
    }
  }

  /** Without what was tracked last, what was tracked before must not take its place. */
  const dropTracked = (ids: readonly string[], part: 'tracked' | 'older') =>
    connection.pool.query(
      `with parts as (${RUN_PARTS}) delete from runs using parts
       where runs.id = parts.id and parts.clip_id = any($1)
         and ${part === 'older' ? "part = 'older'" : "runs.state = 'done'"}`,
      [ids],
    );

  return async (app) => {
    app.get('/api/media', { schema: { response: { 200: MediaView } } }, async () => {
      const [list, ready, tracked, names, free] = await Promise.all([
        db.select().from(clips),
        db.select({ hash: prepared.hash, sizes: prepared.sizes }).from(prepared),
        trackedBytes(),
        db.select({ id: productions.id, name: productions.name }).from(productions),
        freeBytes(settings.data),
      ]);
      const sizes = new Map(ready.map((row) => [row.hash, row.sizes.reduce((sum, [, bytes]) => sum + bytes, 0)]));
      const production = new Map(names.map(({ id, name }) => [id, name]));
      const shares = list.map(({ id, name, productionId, hash, facts }): MediaShare => ({
        clipId: id,
        name,
        production: production.get(productionId) ?? '',
        original: facts?.bytes ?? 0,
        prepared: sizes.get(hash) ?? 0,
        ...(tracked.get(id) ?? { tracked: 0, older: 0 }),
      }));
      return { folder: settings.data, free, room: settings.room, clips: shares };
    });

    app.post('/api/media/drop', { schema: { body: MediaDrop } }, async ({ body: { clips: ids, part } }, reply) => {
      await (part === 'prepared' ? dropPrepared(ids) : dropTracked(ids, part));
      return reply.status(204).send();
    });
  };
}
