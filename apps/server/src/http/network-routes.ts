import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { readFaceGeometry } from '@merry-shadow/tracker/node/face-geometry';
import { cutNetwork, wasmFolder } from '@merry-shadow/tracker/node/wasm-nets';
import { BODY_NETS, FACE_NETS, HAND_NETS } from '@merry-shadow/tracker/runtime/net';

const Params = z.object({ name: z.enum([...BODY_NETS, ...HAND_NETS, ...FACE_NETS]) });

/** How long a browser keeps what never changes. */
const DAY = 'private, max-age=86400';

/** Networks, the average face, and the wasm runtime for live capture in the browser. */
export function networkRoutes() {
  return async (app: FastifyInstance): Promise<void> => {
    app.get('/api/networks/:name', async (request, reply) => {
      const { name } = Params.parse(request.params);
      return reply
        .type('application/octet-stream')
        .header('cache-control', DAY)
        .send(Buffer.from(await cutNetwork(name)));
    });
    app.get('/api/networks/face-geometry', async (_, reply) =>
      reply.header('cache-control', DAY).send(await readFaceGeometry()),
    );
    await app.register(fastifyStatic, { root: wasmFolder(), prefix: '/wasm/', decorateReply: false, maxAge: '1d' });
  };
}
