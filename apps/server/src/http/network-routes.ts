import fastifyStatic from '@fastify/static';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { cutNetwork, wasmFolder } from '@merry-shadow/tracker/node/wasm-nets';
import { BODY_NETS } from '@merry-shadow/tracker/runtime/net';

const Params = z.object({ name: z.enum(BODY_NETS) });

/** Networks and the wasm runtime for live capture in the browser. */
export function networkRoutes() {
  return async (app: FastifyInstance): Promise<void> => {
    app.get('/api/networks/:name', async (request, reply) => {
      const { name } = Params.parse(request.params);
      return reply
        .type('application/octet-stream')
        .header('cache-control', 'private, max-age=86400')
        .send(Buffer.from(await cutNetwork(name)));
    });
    await app.register(fastifyStatic, { root: wasmFolder(), prefix: '/wasm/', decorateReply: false, maxAge: '1d' });
  };
}
