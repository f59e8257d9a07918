import { and, eq, inArray } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { rm } from 'node:fs/promises';
import { MediaDrop, MediaView, type MediaShare } from '@merry-shadow/contracts/media';
import { inTransaction } from '../database/connect';
import { clips, prepared, productions, runs, takes } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { freeBytes } from '../media/room';
import type { AppParts } from './app-parts';

/** What takes how much on the disk; what can be made again is dropped, and comes back when it is needed. */
export function mediaRoutes({ connection, locks, settings }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;

  /** What was tracked of each clip: last, and before that. */
  async function trackedBytes(): Promise<Map<string, { tracked: number; older: number }>> {
    const { rows } = await connection.pool.query<{ clip: string; tracked: string; older: string }>(`
      with newest as (
        select distinct on (take_id) id from runs where state = 'done' order by take_id, created_at desc
      )
      select takes.clip_id as clip,
        coalesce(sum(size) filter (where runs.id in (select id from newest)), 0) as tracked,
        coalesce(sum(size) filter (where runs.id not in (select id from newest) and runs.state not in ('waiting', 'running')), 0) as older
      from runs join takes on takes.id = runs.take_id
      join lateral (select sum(pg_column_size(data)) as size from observation_chunks where run_id = runs.id) chunks on true
      group by 1`);
    return new Map(rows.map(({ clip, tracked, older }) => [clip, { tracked: Number(tracked), older: Number(older) }]));
  }

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
      if (part === 'prepared') {
        const rows = await db
          .selectDistinct({ hash: clips.hash })
          .from(clips)
          .where(and(inArray(clips.id, ids), eq(clips.state, 'ready')));
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
        return reply.status(204).send();
      }
      await inTransaction(connection, async (tx) => {
        const rows = await tx
          .select({ id: runs.id, takeId: runs.takeId, state: runs.state, createdAt: runs.createdAt })
          .from(runs)
          .innerJoin(takes, eq(runs.takeId, takes.id))
          .where(inArray(takes.clipId, ids));
        const newest = new Map<string, (typeof rows)[number]>();
        for (const run of rows)
          if (run.state === 'done' && (newest.get(run.takeId)?.createdAt ?? new Date(0)) < run.createdAt)
            newest.set(run.takeId, run);
        const open = (run: (typeof rows)[number]): boolean => run.state === 'waiting' || run.state === 'running';
        const gone = rows.filter((run) =>
          part === 'tracked' ? run.state === 'done' : !open(run) && newest.get(run.takeId)?.id !== run.id,
        );
        if (gone.length > 0)
          await tx.delete(runs).where(
            inArray(
              runs.id,
              gone.map(({ id }) => id),
            ),
          );
      });
      return reply.status(204).send();
    });
  };
}
