import { and, eq } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { RevisionView, VersionName } from '@merry-shadow/contracts/take';
import { takeRevisions } from '../database/schema';
import { revisionViews, workAt } from '../takes/take-work';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { findTake } from './find-take';

const Params = z.object({ id: z.uuid() });
const RevisionParams = Params.extend({ revision: z.coerce.number().int().min(0) });

/** Stored states of a take's work: list them, look at one, name one as a version. */
export function revisionRoutes({ connection: { db } }: AppParts): FastifyPluginAsyncZod {
  return async (app) => {
    app.get(
      '/api/takes/:id/revisions',
      { schema: { params: Params, response: { 200: z.array(RevisionView) } } },
      async ({ params: { id } }) => revisionViews(db, (await findTake(db, id)).id),
    );

    app.get('/api/takes/:id/revisions/:revision', { schema: { params: RevisionParams } }, async ({ params }) => {
      const take = await findTake(db, params.id);
      if (params.revision > take.revision) throw new AppError('NO_REVISION');
      return workAt(db, take, params.revision);
    });

    app.put(
      '/api/takes/:id/revisions/:revision/version',
      { schema: { params: RevisionParams, body: VersionName } },
      async ({ params: { id, revision }, body: { version } }, reply) => {
        const named = await db
          .update(takeRevisions)
          .set({ version })
          .where(and(eq(takeRevisions.takeId, id), eq(takeRevisions.revision, revision)))
          .returning({ revision: takeRevisions.revision });
        if (named.length === 0) throw new AppError('NO_REVISION');
        return reply.status(204).send();
      },
    );
  };
}
