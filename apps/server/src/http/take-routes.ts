import { eq } from 'drizzle-orm';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { NewTake, OpenTakeView, TakeChange, TakeSettings } from '@merry-shadow/contracts/take';
import { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { inTransaction } from '../database/connect';
import { runs, takes } from '../database/schema';
import { captureLane } from '../queue/queue';
import { cancelRun } from '../takes/cancel-runs';
import { storeWork, takeState } from '../takes/take-work';
import type { AppParts } from './app-parts';
import { checkEdits, checkFrames } from './check-take';
import { AppError } from './errors';
import { findTake, knownClip } from './find-take';
import { takeViews } from './take-view';

const Params = z.object({ id: z.uuid() });

/** Takes: make, open, change, remove, capture, cancel. */
export function takeRoutes({ connection, queue, footage }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;
  return async (app) => {
    app.post('/api/clips/:id/takes', { schema: { params: Params, body: NewTake } }, async ({ params, body }, reply) => {
      const clip = await knownClip(db, params.id);
      checkFrames(body, clip.facts);
      const count = (await db.select({ id: takes.id }).from(takes).where(eq(takes.clipId, params.id))).length;
      const { fromFrame, untilFrame, settings } = body;
      const name = body.name ?? `${clip.name.replace(/\.[^.]+$/, '')} · take ${count + 1}`;
      const values = { clipId: params.id, name, fromFrame, untilFrame, settings };
      const [take] = await db.insert(takes).values(values).returning();
      return reply.status(201).send({ id: take.id });
    });

    app.get(
      '/api/takes/:id',
      { schema: { params: Params, response: { 200: OpenTakeView } } },
      async ({ params: { id } }) => {
        const { edits } = await findTake(db, id);
        const [view] = await takeViews(db, eq(takes.id, id));
        return { ...view, edits: TakeEdits.parse(edits) };
      },
    );

    app.patch('/api/takes/:id', { schema: { params: Params, body: TakeChange } }, async ({ params, body }) => {
      const { settings = {}, basedOn, label = '', ...change } = body;
      // The row is held while it is changed: of two changes at once neither is lost, and both are checked together.
      const revision = await inTransaction(connection, async (tx) => {
        const [take] = await tx.select().from(takes).where(eq(takes.id, params.id)).for('update');
        if (!take) throw new AppError('TAKE_NOT_FOUND');
        if (basedOn !== undefined && basedOn !== take.revision) throw new AppError('TAKE_CHANGED');
        const { facts } = await knownClip(tx, take.clipId);
        const before = takeState(take);
        const { name = before.name, fromFrame = before.fromFrame, untilFrame = before.untilFrame, edits } = change;
        checkFrames({ fromFrame, untilFrame, settings }, facts);
        if (edits) checkEdits(edits, { frames: untilFrame - fromFrame, clipFrames: facts.frames, rate: facts.rate });
        const state = {
          name,
          fromFrame,
          untilFrame,
          settings: { ...before.settings, ...settings },
          edits: edits ?? before.edits,
        };
        return storeWork(tx, take, state, label);
      });
      return { revision };
    });

    app.delete('/api/takes/:id', { schema: { params: Params } }, async ({ params }, reply) => {
      const take = await findTake(db, params.id);
      await db.delete(takes).where(eq(takes.id, take.id));
      return reply.status(204).send();
    });

    app.post('/api/takes/:id/capture', { schema: { params: Params } }, async ({ params }, reply) => {
      const take = await findTake(db, params.id);
      const { facts, clip } = await knownClip(db, take.clipId);
      if (clip.state !== 'ready') throw new AppError('CLIP_NOT_READY');
      // A video that was dropped is made again meanwhile; the run waits for it.
      await footage.isThere(clip);
      checkFrames({ fromFrame: take.fromFrame, untilFrame: take.untilFrame, settings: {} }, facts);
      const { hands, face, performer, performerAgain, fine } = TakeSettings.parse(take.settings);
      const { fromFrame, untilFrame } = take;
      const run = await inTransaction(connection, async (tx, client) => {
        // An index lets a take have one open run only, however many ask at once.
        const [made] = await tx
          .insert(runs)
          .values({ takeId: take.id, fromFrame, untilFrame, parts: { hands, face, performer, performerAgain, fine } })
          .onConflictDoNothing()
          .returning();
        if (!made) throw new AppError('ALREADY_RUNNING');
        await queue.add(captureLane(untilFrame - fromFrame), { runId: made.id }, client);
        return made;
      });
      return reply.status(202).send({ id: run.id });
    });

    app.post('/api/takes/:id/cancel', { schema: { params: Params } }, async ({ params }, reply) => {
      const take = await findTake(db, params.id);
      if (!(await cancelRun(db, take.id))) throw new AppError('NOT_RUNNING');
      return reply.status(204).send();
    });
  };
}
