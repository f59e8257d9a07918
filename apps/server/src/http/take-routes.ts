import { and, eq, inArray } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import { NewTake, TakeChange, TakeSettings } from '@merry-shadow/contracts/take';
import { EXPORT_FORMATS } from '@merry-shadow/core/formats/export-formats';
import { checkSteps } from '@merry-shadow/core/passes/run-passes';
import { shiftEdits, TakeEdits } from '@merry-shadow/core/passes/take-edits';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import { clips, runs, takes } from '../database/schema';
import type { AppParts } from './app';
import { newestRun, observedIn } from '../solve/observed-take';
import { solveInThread } from '../solve/solve-thread';
import { solvedBytes } from '../solve/solved-take';
import { AppError } from './errors';

const Params = z.object({ id: z.uuid() });
const ExportQuery = z.object({ format: z.enum(Object.keys(EXPORT_FORMATS) as (keyof typeof EXPORT_FORMATS)[]) });

/** Takes: mark, change, capture, cancel, fetch, export. */
export function takeRoutes({ db, queue }: AppParts) {
  const findTake = async (id: string): Promise<typeof takes.$inferSelect> => {
    const [take] = await db.select().from(takes).where(eq(takes.id, id));
    if (!take) throw new AppError('TAKE_NOT_FOUND');
    return take;
  };
  const checkRange = async (clipId: string, from: number, until: number): Promise<void> => {
    const [clip] = await db.select().from(clips).where(eq(clips.id, clipId));
    if (!clip) throw new AppError('CLIP_NOT_FOUND');
    if (!clip.facts) throw new AppError('CLIP_NOT_READY');
    if (!(until > from && until <= clip.facts.frames)) throw new AppError('BAD_RANGE');
  };
  const capturedRun = async (take: typeof takes.$inferSelect): Promise<typeof runs.$inferSelect> => {
    const run = await newestRun(db, take.id);
    if (!run) throw new AppError('NOT_CAPTURED');
    return run;
  };
  const solved = async (take: typeof takes.$inferSelect): Promise<Buffer> => {
    const run = await capturedRun(take);
    try {
      return await solvedBytes(db, run, take);
    } catch (error) {
      if (error instanceof SolveError) throw new AppError('NO_MOTION', error.message);
      throw error;
    }
  };

  return async (app: FastifyInstance): Promise<void> => {
    app.post('/api/clips/:id/takes', async (request, reply) => {
      const { id } = Params.parse(request.params);
      const wanted = NewTake.parse(request.body);
      await checkRange(id, wanted.fromFrame, wanted.untilFrame);
      const [clip] = await db.select({ name: clips.name }).from(clips).where(eq(clips.id, id));
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
      const take = await findTake(Params.parse(request.params).id);
      const { settings, ...change } = TakeChange.parse(request.body);
      await checkRange(take.clipId, change.fromFrame ?? take.fromFrame, change.untilFrame ?? take.untilFrame);
      try {
        checkSteps(change.edits?.passes ?? []);
      } catch (error) {
        throw new AppError('BAD_EDITS', (error as Error).message);
      }
      await db
        .update(takes)
        .set({ ...change, settings: { ...take.settings, ...settings } })
        .where(eq(takes.id, take.id));
      return reply.status(204).send();
    });

    app.delete('/api/takes/:id', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      await db.delete(takes).where(eq(takes.id, take.id));
      return reply.status(204).send();
    });

    app.post('/api/takes/:id/capture', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      await checkRange(take.clipId, take.fromFrame, take.untilFrame);
      const open = await db
        .select({ id: runs.id })
        .from(runs)
        .where(and(eq(runs.takeId, take.id), inArray(runs.state, ['waiting', 'running'])));
      if (open.length > 0) throw new AppError('ALREADY_RUNNING');
      const { hands, face, performer, fine } = TakeSettings.parse(take.settings);
      const [run] = await db
        .insert(runs)
        .values({
          takeId: take.id,
          fromFrame: take.fromFrame,
          untilFrame: take.untilFrame,
          parts: { hands, face, performer, fine },
        })
        .returning();
      await queue.add('capture', { runId: run.id });
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
      return reply.type('application/octet-stream').send(await solved(take));
    });

    app.get('/api/takes/:id/export', async (request, reply) => {
      const take = await findTake(Params.parse(request.params).id);
      const { format } = ExportQuery.parse(request.query);
      const file = take.name.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^-+|-+$/g, '') || 'take';
      const run = await capturedRun(take);
      // Edits count the clip's frames, the motion its own.
      const edits = shiftEdits(TakeEdits.parse(take.edits), -run.fromFrame);
      const body = await solveInThread({ write: { solved: await solved(take), edits, format, name: take.name } });
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
