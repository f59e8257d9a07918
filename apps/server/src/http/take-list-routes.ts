import { and, desc, eq, inArray } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { PastRun, SharedSettings, TakeListing } from '@merry-shadow/contracts/take';
import { inTransaction } from '../database/connect';
import { runs, takes } from '../database/schema';
import { cancelRun, openRunOf } from '../takes/cancel-runs';
import { storeWork, takeState } from '../takes/take-work';
import type { AppParts } from './app-parts';
import { checkFrames } from './check-take';
import { AppError } from './errors';
import { findTake, knownClip } from './find-take';

const Params = z.object({ id: z.uuid() });

/** Takes in their lists: order, the best one, thrown away and brought back, copies, settings for several, what was tracked before. */
export function takeListRoutes({ connection }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;
  return async (app) => {
    app.patch(
      '/api/takes/:id/listing',
      { schema: { params: Params, body: TakeListing } },
      async ({ params, body: { best, removed, place, queuePlace } }, reply) => {
        const take = await findTake(db, params.id);
        await inTransaction(connection, async (tx) => {
          // A clip has one best take.
          if (best)
            await tx
              .update(takes)
              .set({ best: false })
              .where(and(eq(takes.clipId, take.clipId), eq(takes.best, true)));
          const change = {
            ...(best !== undefined && { best }),
            ...(removed !== undefined && { removedAt: removed ? new Date() : null }),
            ...(place !== undefined && { place }),
          };
          if (Object.keys(change).length > 0) await tx.update(takes).set(change).where(eq(takes.id, take.id));
          if (removed) await cancelRun(tx, take.id);
          if (queuePlace !== undefined) await tx.update(runs).set({ place: queuePlace }).where(openRunOf(take.id));
        });
        return reply.status(204).send();
      },
    );

    app.post('/api/takes/:id/duplicate', { schema: { params: Params } }, async ({ params }, reply) => {
      const { clipId, name, fromFrame, untilFrame, settings, edits, place } = await findTake(db, params.id);
      const copy = { clipId, fromFrame, untilFrame, settings, edits };
      const names = await db.select({ name: takes.name }).from(takes).where(eq(takes.clipId, clipId));
      const [made] = await db
        .insert(takes)
        .values({
          ...copy,
          name: nextName(
            name,
            names.map((row) => row.name),
          ),
          place: place + 1e-3,
        })
        .returning({ id: takes.id });
      return reply.status(201).send({ id: made.id });
    });

    app.get(
      '/api/takes/:id/runs',
      { schema: { params: Params, response: { 200: z.array(PastRun) } } },
      async ({ params: { id } }) => {
        await findTake(db, id);
        const rows = await db.select().from(runs).where(eq(runs.takeId, id)).orderBy(desc(runs.createdAt)).limit(100);
        return rows.map(({ createdAt, finishedAt, parts, ...run }) => ({
          ...run,
          at: createdAt.toISOString(),
          seconds: finishedAt && (finishedAt.getTime() - createdAt.getTime()) / 1000,
          hands: parts.hands,
          face: parts.face,
          fine: parts.fine ?? false,
        }));
      },
    );

    app.patch(
      '/api/takes/settings',
      { schema: { body: SharedSettings } },
      async ({ body: { takes: ids, settings, label } }, reply) => {
        await inTransaction(connection, async (tx) => {
          const rows = await tx.select().from(takes).where(inArray(takes.id, ids)).orderBy(takes.id).for('update');
          if (rows.length < new Set(ids).size) throw new AppError('TAKE_NOT_FOUND');
          for (const take of rows) {
            const state = takeState(take);
            checkFrames({ ...state, settings }, (await knownClip(tx, take.clipId)).facts);
            await storeWork(tx, take, { ...state, settings: { ...state.settings, ...settings } }, label);
          }
        });
        return reply.status(204).send();
      },
    );
  };
}

/** A name for a copy that no other take of the clip has. */
function nextName(name: string, taken: readonly string[]): string {
  const stem = name.replace(/ \(\d+\)$/, '').slice(0, 74);
  for (let count = 2; ; count++) if (!taken.includes(`${stem} (${count})`)) return `${stem} (${count})`;
}
