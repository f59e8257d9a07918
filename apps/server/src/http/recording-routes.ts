import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import { FootageError } from '@merry-shadow/tracker/node/probe';
import { DepthRecordingBegin } from '@merry-shadow/contracts/depth-camera';
import { DepthRecordings } from '../devices/depth-recordings';
import { Recordings } from '../media/recordings';
import { isDatabaseError } from '../shell/errors-in-words';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { openProduction } from './production-view';

const Params = z.object({ id: z.uuid() });
const Begin = z.strictObject({ production: z.uuid(), name: z.string().trim().min(1).max(120) });
/** A piece holds a second or so. */
const MOST_BYTES = 64e6;
const RESCUE_MS = 5000;

/** Recordings: those of the browser come in as they are made, those from depth cameras are made here. */
export function recordingRoutes({ connection, settings, footage, depthCameras }: AppParts): FastifyPluginAsyncZod {
  const recordings = new Recordings(settings, footage);
  const fromDepth = new DepthRecordings(recordings);
  return async (app) => {
    const rescue = (): Promise<void> =>
      recordings.rescue().then(
        (count) => void (count > 0 && app.log.info(`${count} recordings that were left became clips.`)),
        (error: Error) => void (isDatabaseError(error) || app.log.error(error)),
      );
    let rescuing = Promise.resolve();
    const timer = setInterval(() => (rescuing = rescuing.then(rescue)), RESCUE_MS);
    app.addHook('preClose', async () => {
      clearInterval(timer);
      await fromDepth.close();
      await rescuing;
    });
    app.addContentTypeParser(
      'application/octet-stream',
      { parseAs: 'buffer', bodyLimit: MOST_BYTES },
      (_request, body, done) => done(null, body),
    );

    app.post('/api/recordings', { schema: { body: Begin } }, async ({ body: { production, name } }, reply) => {
      const { id } = await openProduction(connection.db, production);
      return reply.status(201).send({ id: await recordings.begin({ production: id, name }) });
    });

    app.post(
      '/api/depth-cameras/:id/recordings',
      { schema: { params: z.object({ id: z.string() }), body: DepthRecordingBegin } },
      async ({ params, body: { production, name, seconds } }, reply) => {
        const camera = depthCameras.find(params.id);
        if (!camera) throw new AppError('CAMERA_GONE');
        const { id: where } = await openProduction(connection.db, production);
        const id = await fromDepth.begin(camera, { production: where, name }, seconds);
        if (!id) throw new AppError('CAMERA_BUSY');
        return reply.status(201).send({ id });
      },
    );

    app.post(
      '/api/recordings/:id/pieces',
      { schema: { params: Params, querystring: z.object({ at: z.coerce.number().int().min(0) }) } },
      async ({ params, query, body }, reply) => {
        if (!Buffer.isBuffer(body)) throw new AppError('BAD_REQUEST');
        if (!(await recordings.append(params.id, query.at, body))) throw new AppError('RECORDING_GONE');
        return reply.status(204).send();
      },
    );

    app.post('/api/recordings/:id/finish', { schema: { params: Params } }, async ({ params }, reply) => {
      try {
        await fromDepth.end(params.id);
        const clipId = await recordings.finish(params.id);
        if (!clipId) throw new AppError('RECORDING_GONE');
        return await reply.status(201).send({ clipId });
      } catch (error) {
        throw error instanceof FootageError ? new AppError('BAD_FIELD', error.message) : error;
      }
    });

    app.delete('/api/recordings/:id', { schema: { params: Params } }, async ({ params }, reply) => {
      await fromDepth.end(params.id);
      await recordings.drop(params.id);
      return reply.status(204).send();
    });
  };
}
