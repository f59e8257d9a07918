import helmet from '@fastify/helmet';
import multipart from '@fastify/multipart';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyInstance } from 'fastify';
import { join } from 'node:path';
import { ZodError } from 'zod';
import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import type { Database } from '../database/connect';
import type { Queue } from '../queue/queue';
import type { Settings } from '../settings';
import { AppError } from './errors';
import { guardHost } from './guard';
import { clipRoutes } from './clip-routes';
import { networkRoutes } from './network-routes';
import { takeRoutes } from './take-routes';

export interface AppParts {
  settings: Settings;
  db: Database;
  queue: Queue;
  /** Looks for people in single frames. */
  scout: TrackPool;
}

const GIGABYTE = 1024 ** 3;

/** Builds the HTTP server; the caller listens. */
export async function buildApp(parts: AppParts): Promise<FastifyInstance> {
  const { settings } = parts;
  const app = Fastify({ logger: settings.log === 'silent' ? false : { level: settings.log }, bodyLimit: 1_000_000 });
  guardHost(app);
  await app.register(helmet, {
    contentSecurityPolicy: {
      useDefaults: false,
      directives: {
        defaultSrc: ["'self'"],
        scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
        workerSrc: ["'self'", 'blob:'],
        styleSrc: ["'self'", "'unsafe-inline'"],
        imgSrc: ["'self'", 'data:', 'blob:'],
        mediaSrc: ["'self'", 'blob:'],
        connectSrc: ["'self'"],
        fontSrc: ["'self'"],
        objectSrc: ["'none'"],
        baseUri: ["'none'"],
        formAction: ["'self'"],
        frameAncestors: ["'none'"],
      },
    },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    strictTransportSecurity: false,
  });
  await app.register(multipart, { limits: { fileSize: 16 * GIGABYTE, files: 50, fields: 10 } });
  app.setErrorHandler((error: Error & { code?: string; statusCode?: number }, request, reply) => {
    const known = toAppError(error);
    if (known.code === 'INTERNAL') request.log.error(error);
    return reply.status(known.status).send({ error: { code: known.code, message: known.message } });
  });
  app.setNotFoundHandler((request, reply) => {
    // Addresses of the interface all lead to its one page.
    if (request.method === 'GET' && !request.url.startsWith('/api/') && !request.url.includes('.'))
      return reply.sendFile('index.html');
    const missing = new AppError('NOT_FOUND');
    return reply.status(404).send({ error: { code: missing.code, message: missing.message } });
  });
  await app.register(fastifyStatic, {
    root: join(settings.root, 'apps/web/dist'),
    cacheControl: true,
    maxAge: '1h',
    index: 'index.html',
  });
  app.get('/api/health', () => ({ ok: true }));
  await app.register(clipRoutes(parts));
  await app.register(takeRoutes(parts));
  await app.register(networkRoutes());
  return app;
}

function toAppError(error: Error & { code?: string; statusCode?: number }): AppError {
  if (error instanceof AppError) return error;
  if (error instanceof ZodError)
    return new AppError(
      'BAD_REQUEST',
      error.issues.map((issue) => `${issue.path.join('.') || 'request'}: ${issue.message}`).join(' '),
    );
  if (error.code === 'FST_REQ_FILE_TOO_LARGE') return new AppError('FILE_TOO_LARGE');
  if (error.statusCode !== undefined && error.statusCode < 500) return new AppError('BAD_REQUEST', error.message);
  return new AppError('INTERNAL');
}
