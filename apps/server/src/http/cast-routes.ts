import { eq, sql } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { NewPerformer, NewPreset, PerformerChange, PerformerView, PresetView } from '@merry-shadow/contracts/performer';
import { inTransaction } from '../database/connect';
import { performers, presets, takes } from '../database/schema';
import { storeWork, takeState } from '../takes/take-work';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { openProduction } from './production-view';

const Params = z.object({ id: z.uuid() });

/** Who performs in a production, and its presets. */
export function castRoutes({ connection }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;
  return async (app) => {
    app.post(
      '/api/productions/:id/performers',
      { schema: { params: Params, body: NewPerformer, response: { 201: PerformerView } } },
      async ({ params, body }, reply) => {
        const { id: productionId } = await openProduction(db, params.id);
        const [made] = await db
          .insert(performers)
          .values({ ...body, productionId })
          .returning();
        return reply.status(201).send(made);
      },
    );

    app.patch(
      '/api/performers/:id',
      { schema: { params: Params, body: PerformerChange, response: { 200: PerformerView } } },
      ({ params: { id }, body }) =>
        inTransaction(connection, async (tx) => {
          const [before] = await tx.select().from(performers).where(eq(performers.id, id)).for('update');
          if (!before) throw new AppError('PERFORMER_NOT_FOUND');
          if (Object.keys(body).length === 0) return before;
          const [after] = await tx.update(performers).set(body).where(eq(performers.id, id)).returning();
          // Takes that say another height of their own keep it.
          if (after.height !== before.height)
            for (const take of await tx
              .select()
              .from(takes)
              .where(eq(sql`${takes.settings} ->> 'performedBy'`, id))
              .for('update')) {
              const state = takeState(take);
              if (state.settings.height !== before.height) continue;
              const settings = { ...state.settings, height: after.height };
              await storeWork(tx, take, { ...state, settings }, `height of ${after.name}`);
            }
          return after;
        }),
    );

    app.delete('/api/performers/:id', { schema: { params: Params } }, async ({ params: { id } }, reply) => {
      const gone = await db.delete(performers).where(eq(performers.id, id)).returning({ id: performers.id });
      if (gone.length === 0) throw new AppError('PERFORMER_NOT_FOUND');
      return reply.status(204).send();
    });

    app.post(
      '/api/productions/:id/presets',
      { schema: { params: Params, body: NewPreset, response: { 201: PresetView } } },
      async ({ params, body: { name, settings } }, reply) => {
        const { id: productionId } = await openProduction(db, params.id);
        const [{ id }] = await db.insert(presets).values({ name, settings, productionId }).returning();
        return reply.status(201).send({ id, name, settings });
      },
    );

    app.delete('/api/presets/:id', { schema: { params: Params } }, async ({ params: { id } }, reply) => {
      const gone = await db.delete(presets).where(eq(presets.id, id)).returning({ id: presets.id });
      if (gone.length === 0) throw new AppError('PRESET_NOT_FOUND');
      return reply.status(204).send();
    });
  };
}
