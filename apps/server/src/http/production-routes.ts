import { eq } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { ProductionChange, ProductionName, type ProductionView } from '@merry-shadow/contracts/production';
import { productions } from '../database/schema';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { addProduction, openProduction, productionNames, productionView } from './production-view';

/** Productions: list what is in one, make, name, put away and bring back. */
export function productionRoutes({ connection: { db }, settings }: AppParts): FastifyPluginAsyncZod {
  return async (app) => {
    app.get(
      '/api/production',
      { schema: { querystring: z.object({ id: z.uuid().optional() }) } },
      ({ query }): Promise<ProductionView> => productionView(db, settings, query.id),
    );

    app.post(
      '/api/productions',
      {
        schema: {
          body: ProductionChange.required({ name: true }).omit({ putAway: true }),
          response: { 201: ProductionName },
        },
      },
      async ({ body }, reply) => reply.status(201).send(await addProduction(db, body.name)),
    );

    app.patch(
      '/api/productions/:id',
      { schema: { params: z.object({ id: z.uuid() }), body: ProductionChange, response: { 200: ProductionName } } },
      async ({ params: { id }, body: { name, putAway } }) => {
        await openProduction(db, id);
        const others = (await productionNames(db)).filter((other) => other.id !== id && !other.putAway);
        if (putAway && others.length === 0) throw new AppError('LAST_PRODUCTION');
        const change = {
          ...(name !== undefined && { name }),
          ...(putAway !== undefined && { putAwayAt: putAway ? new Date() : null }),
        };
        if (Object.keys(change).length > 0) await db.update(productions).set(change).where(eq(productions.id, id));
        return openProduction(db, id);
      },
    );
  };
}
