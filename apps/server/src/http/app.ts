import helmet from '@fastify/helmet';
import multipart from '@fastify/multipart';
import fastifyStatic from '@fastify/static';
import Fastify, { type FastifyInstance } from 'fastify';
import { hasZodFastifySchemaValidationErrors, serializerCompiler, validatorCompiler } from 'fastify-type-provider-zod';
import { join } from 'node:path';
import { ZodError } from 'zod';
import { asNoRoom } from '../media/room';
import type { Settings } from '../settings';
import { isBadValue, isDatabaseError, shortMessage } from '../shell/errors-in-words';
import type { AppParts } from './app-parts';
import { AppError } from './errors';
import { guardHost } from './guard';
import { readJsonBodies } from './json-body';
import { castRoutes } from './cast-routes';
import { handShapeRoutes } from './hand-shape-routes';
import { clipRoutes } from './clip-routes';
import { depthCameraRoutes } from './depth-camera-routes';
import { eventRoutes } from './event-routes';
import { mediaRoutes } from './media-routes';
import { networkRoutes } from './network-routes';
import { productionRoutes } from './production-routes';
import { recordingRoutes } from './recording-routes';
import { resultRoutes } from './result-routes';
import { revisionRoutes } from './revision-routes';
import { takeListRoutes } from './take-list-routes';
import { takeRoutes } from './take-routes';

const GIGABYTE = 1024 ** 3;

/** Builds the HTTP server; the caller listens. */
export async function buildApp(parts: AppParts): Promise<FastifyInstance> {
  const { settings } = parts;
  const app = Fastify({ logger: logger(settings.log), bodyLimit: 1_000_000, forceCloseConnections: true });
  app.setValidatorCompiler(validatorCompiler);
  app.setSerializerCompiler(serializerCompiler);
  guardHost(app);
  readJsonBodies(app);
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
  await app.register(multipart, { limits: { fileSize: 16 * GIGABYTE, files: 1, fields: 10 } });
  app.setErrorHandler((error: Error & { code?: string; statusCode?: number }, request, reply) => {
    const known = toAppError(error, settings);
    // Nobody waits for an answer any more.
    if (reply.raw.destroyed) return reply.hijack();
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
    dotfiles: 'ignore',
  });
  app.get('/api/health', () => ({ ok: true }));
  for (const routes of [
    clipRoutes,
    recordingRoutes,
    depthCameraRoutes,
    productionRoutes,
    castRoutes,
    handShapeRoutes,
    takeRoutes,
    takeListRoutes,
    revisionRoutes,
    resultRoutes,
    mediaRoutes,
    eventRoutes,
  ])
    await app.register(routes(parts));
  await app.register(networkRoutes());
  return app;
}

/** Lines of the log are bounded: a failed query would carry all that it was given. */
function logger(level: string): false | object {
  if (level === 'silent') return false;
  const err = (error: Error & { code?: string }): object => ({
    type: error.name,
    code: error.code,
    message: shortMessage(error),
    stack: error.stack?.split('\n').slice(-8).join('\n').slice(0, 1500),
  });
  return { level, serializers: { err } };
}

type ThrownError = Error & { code?: string; statusCode?: number };

function toAppError(error: ThrownError, { data, room }: Settings): AppError {
  if (error instanceof AppError) return error;
  if (error instanceof ZodError)
    return new AppError(
      'BAD_REQUEST',
      error.issues.map((issue) => `${issue.path.join('.') || 'request'}: ${issue.message}`).join(' '),
    );
  if (hasZodFastifySchemaValidationErrors(error))
    return new AppError(
      'BAD_REQUEST',
      error.validation
        .map(({ instancePath, message }) => `${instancePath.slice(1).replaceAll('/', '.') || 'request'}: ${message}`)
        .join(' '),
    );
  const full = asNoRoom(error, data, room);
  if (full) return new AppError('NO_ROOM', full.message);
  if (error.code === 'FST_REQ_FILE_TOO_LARGE') return new AppError('FILE_TOO_LARGE');
  if (error.code === 'FST_FILES_LIMIT') return new AppError('ONE_FILE');
  if (error.statusCode === 416) return new AppError('BAD_PLACE');
  if (error.statusCode === 415) return new AppError('BAD_REQUEST', 'This address takes another kind of content.');
  if (error.statusCode !== undefined && error.statusCode < 500) return new AppError('BAD_REQUEST', error.message);
  if (isDatabaseError(error)) return new AppError(isBadValue(error) ? 'BAD_REQUEST' : 'DATABASE_AWAY');
  return new AppError('INTERNAL');
}
