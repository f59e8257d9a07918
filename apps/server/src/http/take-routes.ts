import { and, eq, inArray, sql } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import { NewTake, TakeChange, TakeSettings } from '@merry-shadow/contracts/take';
import { EXPORT_FORMATS } from '@merry-shadow/core/formats/export-formats';
import { ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import { shiftEdits, TakeEdits } from '@merry-shadow/core/passes/take-edits';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import { inTransaction, type Database } from '../database/connect';
import { clips, runs, takes } from '../database/schema';
import { captureLane } from '../queue/queue';
import type { AppParts } from './app';
import { newestRun, observedIn } from '../solve/observed-take';
import { solvedBytes } from '../solve/solved-take';
import { checkEdits, checkFrames } from './check-take';
import { AppError } from './errors';
import { goneSignal } from './gone-signal';

const Params = z.object({ id: z.uuid() });
const ExportQuery = z.object({ format: z.enum(Object.keys(EXPORT_FORMATS) as (keyof typeof EXPORT_FORMATS)[]) });

/** Takes: mark, change, capture, cancel, fetch, export. */
export function takeRoutes({ connection, queue, solver }: AppParts) {
  const { db } = connection;
  const findTake = async (id: string): Promise<typeof takes.$inferSelect> => {
    const [take] = await db.select().from(takes).where(eq(takes.id, id));
    if (!take) throw new AppError('TAKE_NOT_FOUND');
    return take;
  };
  const knownClip = async (clipId: string, tx: Database = db) => {
    const [clip] = await tx.select().from(clips).where(eq(clips.id, clipId));
    if (!clip) throw new AppError('CLIP_NOT_FOUND');
    const { name, facts, state } = clip;
    if (!facts) throw new AppError('CLIP_NOT_READY');
    return { name, facts, state };
  };
  const capturedRun = async (take: typeof takes.$inferSelect): Promise<typeof runs.$inferSelect> => {
    const run = await newestRun(db, take.id);
    if (!run) throw new AppError('NOT_CAPTURED');
    return run;
  };
  /** What the threads say in a sentence, as an answer. */
  const asAnswer = (error: unknown): never => {
    if (error instanceof SolveError) throw new AppError('NO_MOTION', error.message);
    if (error instanceof ResultTooLongError) throw new AppError('TOO_LONG', error.message);
    throw error;
  };
  const solved = async (take: typeof takes.$inferSelect, gone: AbortSignal): Promise<Buffer> =>
    solvedBytes({ db, solver }, await capturedRun(take), take, gone).catch(asAnswer);

  return async (app: FastifyInstance): Promise<void> => {
    app.post('/api/clips/:id/takes', async (request, reply) => {
      const { id } = Params.parse(request.params);
      const wanted = NewTake.parse(request.body);
      const clip = await knownClip(id);
      checkFrames(wanted, clip.facts);
      const count = (await db.select({ id: takes.id }).from(takes).where(eq(takes.clipId, id))).length;
      const name = wanted.name ?? `${clip.name.replace(/\.[^.]+$/, '')} · take ${count + 1}`;
      const [take] = await db
        .insert(takes)
        .values({
          clipId: id,
          name,
          fromFrame: wanted.fromFrame,
          untilFrame: wanted.untilFrame,
          settings: wanted.settings,
        })
        .returning();
      return reply.status(201).send({ id: take.id });
    });

    app.patch('/api/takes/:id', async (request, reply) => {
      const { id } = Params.parse(request.params);
      const { settings, basedOn, ...change } = TakeChange.parse(request.body);
      // The row is held while it is changed: of two changes at once neither is lost, and both are checked together.
      const editsRevision = await inTransaction(connection, async (tx) => {
        const [take] = await tx.select().from(takes).where(eq(takes.id, id)).for('update');
        if (!take) throw new AppError('TAKE_NOT_FOUND');
        const { facts } = await knownClip(take.clipId, tx);
        const { fromFrame = take.fromFrame, untilFrame = take.untilFrame, edits } = change;
        checkFrames({ fromFrame, untilFrame, settings: settings ?? {} }, facts);
        if (edits && basedOn !== undefined && basedOn !== take.editsRevision) throw new AppError('EDITS_CHANGED');
        if (edits) checkEdits(edits, { frames: untilFrame - fromFrame, clipFrames: facts.frames, rate: facts.rate });
        const revision = take.editsRevision + (edits ? 1 : 0);
        await tx
          .update(takes)
          .set({
            ...change,
            editsRevision: revision,
            settings: sql`${takes.settings} || ${JSON.stringify(settings ?? {})}::jsonb`,
          })
          .where(eq(takes.id, id));
        return revision;
      });
      return reply.send({ editsRevision });
    });

    app.delete('/api/takes/:id', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      await db.delete(takes).where(eq(takes.id, take.id));
      return reply.status(204).send();
    });

    app.post('/api/takes/:id/capture', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      const { facts, state } = await knownClip(take.clipId);
      if (state !== 'ready') throw new AppError('CLIP_NOT_READY');
      checkFrames({ fromFrame: take.fromFrame, untilFrame: take.untilFrame, settings: {} }, facts);
      const { hands, face, performer, fine } = TakeSettings.parse(take.settings);
      const { fromFrame, untilFrame } = take;
      const run = await inTransaction(connection, async (tx, client) => {
        // An index lets a take have one open run only, however many ask at once.
        const [made] = await tx
          .insert(runs)
          .values({ takeId: take.id, fromFrame, untilFrame, parts: { hands, face, performer, fine } })
          .onConflictDoNothing()
          .returning();
        if (!made) throw new AppError('ALREADY_RUNNING');
        await queue.add(captureLane(untilFrame - fromFrame), { runId: made.id }, client);
        return made;
      });
      return reply.status(202).send({ id: run.id });
    });

    app.post('/api/takes/:id/cancel', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      const stopped = await db
        .update(runs)
        .set({ state: 'cancelled', finishedAt: new Date() })
        .where(and(eq(runs.takeId, take.id), inArray(runs.state, ['waiting', 'running'])))
        .returning({ id: runs.id });
      if (stopped.length === 0) throw new AppError('NOT_RUNNING');
      return reply.status(204).send();
    });

    app.get('/api/takes/:id/observations', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      const seen = await observedIn(db, (await capturedRun(take)).id, take);
      return reply.type('application/octet-stream').send(Buffer.from(observationsToBytes(seen)));
    });

    app.get('/api/takes/:id/motion', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      return reply.type('application/octet-stream').send(await solved(take, goneSignal(reply)));
    });

    app.get('/api/takes/:id/export', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      const { format } = ExportQuery.parse(request.query);
      const file = take.name.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^-+|-+$/g, '') || 'take';
      const run = await capturedRun(take);
      // Edits count the clip's frames, the motion its own.
      const edits = shiftEdits(TakeEdits.parse(take.edits), -run.fromFrame);
      const gone = goneSignal(reply);
      const write = { solved: await solved(take, gone), edits, format, name: take.name };
      const body = await solver.run({ write }, gone).catch(asAnswer);
      const plain = file.replace(/[^\x20-\x7e]/g, '_');
      return reply
        .type(EXPORT_FORMATS[format].mime)
        .header(
          'content-disposition',
          `attachment; filename="${plain}.${format}"; filename*=UTF-8''${encodeURIComponent(file)}.${format}`,
        )
        .send(Buffer.from(body));
    });
  };
}
