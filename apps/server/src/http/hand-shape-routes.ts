import { eq } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { HandShapeView } from '@merry-shadow/contracts/hand-shape';
import { OwnHandShape } from '@merry-shadow/core/passes/shape-hand';
import { handShapes } from '../database/schema';
import type { AppParts } from './app-parts';
import { AppError } from './errors';

/** Shapes of a hand that people keep. One with the name of another takes its place. */
export function handShapeRoutes({ connection: { db } }: AppParts): FastifyPluginAsyncZod {
  return async (app) => {
    app.post(
      '/api/hand-shapes',
      { schema: { body: OwnHandShape, response: { 201: HandShapeView } } },
      async ({ body: { name, angles } }, reply) => {
        const [{ id }] = await db
          .insert(handShapes)
          .values({ name, angles })
          .onConflictDoUpdate({ target: handShapes.name, set: { angles } })
          .returning();
        return reply.status(201).send({ id, name, angles });
      },
    );

    app.delete(
      '/api/hand-shapes/:id',
      { schema: { params: z.object({ id: z.uuid() }) } },
      async ({ params }, reply) => {
        const gone = await db.delete(handShapes).where(eq(handShapes.id, params.id)).returning({ id: handShapes.id });
        if (gone.length === 0) throw new AppError('HAND_SHAPE_NOT_FOUND');
        return reply.status(204).send();
      },
    );
  };
}
