import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { z } from 'zod';
import type { DepthCameraList } from '@merry-shadow/contracts/depth-camera';
import { frameMessage } from '@merry-shadow/contracts/framed-message';
import type { AppParts } from './app-parts';
import { AppError } from './errors';

/** Who looks on and is too slow misses frames instead of making them wait, bytes. */
const MOST_WAITING = 8e6;

/** Depth cameras that are there, and what they see. */
export function depthCameraRoutes({ depthCameras }: AppParts): FastifyPluginAsyncZod {
  return async (app) => {
    app.get('/api/depth-cameras', (): DepthCameraList => ({ port: depthCameras.port, cameras: depthCameras.list() }));

    // Messages as bridges send them, and how far a recording is, until the camera goes away or nobody looks any more.
    app.get('/api/depth-cameras/:id/frames', { schema: { params: z.object({ id: z.string() }) } }, (request, reply) => {
      const camera = depthCameras.find(request.params.id);
      if (!camera) throw new AppError('CAMERA_GONE');
      const { raw } = reply.hijack();
      raw.writeHead(200, { 'content-type': 'application/octet-stream', 'cache-control': 'no-store' });
      const leave = camera.watch({
        frame: ({ type, time, body }) =>
          void (raw.writableLength < MOST_WAITING && raw.write(frameMessage({ type, time }, body))),
        news: (news) => void raw.write(frameMessage(news)),
        gone: () => void raw.end(),
      });
      raw.on('close', leave);
    });
  };
}
