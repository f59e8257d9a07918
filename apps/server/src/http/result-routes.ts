import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import { shiftEdits, TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { EXPORT_FORMATS } from '@merry-shadow/core/formats/export-formats';
import { OBSERVATION_GROUPS } from '@merry-shadow/core/observe/observations';
import { ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import type { runs, takes } from '../database/schema';
import { newestRun, observedIn } from '../solve/observed-take';
import { solvedBytes } from '../solve/solved-take';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { findTake } from './find-take';
import { goneSignal } from './gone-signal';

const Params = z.object({ id: z.uuid() });
const ExportQuery = z.object({ format: z.enum(Object.keys(EXPORT_FORMATS) as (keyof typeof EXPORT_FORMATS)[]) });
const group = z.enum(OBSERVATION_GROUPS);
const ObservationQuery = z.object({
  /** Groups of columns, with commas between; all if left out. */
  groups: z
    .string()
    .transform((list) => list.split(','))
    .pipe(z.array(group))
    .optional(),
  /** Frames of the capture; all if left out. */
  from: z.coerce.number().int().min(0).optional(),
  until: z.coerce.number().int().min(1).optional(),
});

/** What a capture gave: observations, motion, exported files. */
export function resultRoutes({ connection: { db }, solver, settings: { data } }: AppParts): FastifyPluginAsyncZod {
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
    solvedBytes({ db, solver, data }, await capturedRun(take), take, gone).catch(asAnswer);

  return async (app) => {
    app.get(
      '/api/takes/:id/observations',
      { schema: { params: Params, querystring: ObservationQuery } },
      async ({ params, query: { groups, from, until } }, reply) => {
        const take = await findTake(db, params.id);
        const seen = await observedIn(db, (await capturedRun(take)).id, take, { groups, from, until });
        return reply.type('application/octet-stream').send(Buffer.from(observationsToBytes(seen, groups)));
      },
    );

    app.get('/api/takes/:id/motion', { schema: { params: Params } }, async ({ params }, reply) => {
      const take = await findTake(db, params.id);
      return reply.type('application/octet-stream').send(await solved(take, goneSignal(reply)));
    });

    app.get(
      '/api/takes/:id/export',
      { schema: { params: Params, querystring: ExportQuery } },
      async ({ params, query: { format } }, reply) => {
        const take = await findTake(db, params.id);
        const file = take.name.replace(/[^\p{L}\p{N}._-]+/gu, '-').replace(/^-+|-+$/g, '') || 'take';
        const run = await capturedRun(take);
        // Edits count the clip's frames, the motion its own.
        const edits = shiftEdits(TakeEdits.parse(take.edits), -run.fromFrame);
        const gone = goneSignal(reply);
        const write = { solved: await solved(take, gone), edits, format, name: take.name };
        const body = await solver.run({ write }, gone).catch(asAnswer);
        const { ending, mime } = EXPORT_FORMATS[format];
        const plain = file.replace(/[^\x20-\x7e]/g, '_');
        return reply
          .type(mime)
          .header(
            'content-disposition',
            `attachment; filename="${plain}.${ending}"; filename*=UTF-8''${encodeURIComponent(file)}.${ending}`,
          )
          .send(Buffer.from(body));
      },
    );
  };
}
