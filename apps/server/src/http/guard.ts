import type { FastifyInstance } from 'fastify';
import { AppError } from './errors';

const LOCAL = /^(127\.0\.0\.1|localhost|\[::1\])(:\d+)?$/;

/**
 * Answers only to this computer's own pages: the Host must be loopback (against DNS rebinding), and
 * a request that changes something must not come from another origin.
 */
export function guardHost(app: FastifyInstance): void {
  app.addHook('onRequest', async (request) => {
    const host = request.headers.host ?? '';
    if (!LOCAL.test(host)) throw new AppError('FOREIGN_HOST');
    const { origin } = request.headers;
    if (origin !== undefined && origin !== `http://${host}`) throw new AppError('FOREIGN_HOST');
    const site = request.headers['sec-fetch-site'];
    if (request.method !== 'GET' && request.method !== 'HEAD' && site !== undefined && site !== 'same-origin')
      throw new AppError('FOREIGN_HOST');
  });
}
