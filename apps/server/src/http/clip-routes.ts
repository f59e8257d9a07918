import { eq } from 'drizzle-orm';
import type { FastifyRequest } from 'fastify';
import type { FastifyPluginAsyncZod } from 'fastify-type-provider-zod';
import { rename, rm } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { z } from 'zod';
import { ClipChange, ClipView, SeenPeople, type SeenPerson } from '@merry-shadow/contracts/clip';
import { Looks } from '@merry-shadow/core/judge/looks';
import { joinDepth } from '@merry-shadow/tracker/node/join-depth';
import { joinPictures } from '@merry-shadow/tracker/node/join-pictures';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { sightingSize, type Sighting } from '@merry-shadow/tracker/people/associate';
import { clips, prepared } from '../database/schema';
import { clipFiles, incomingFolder, contentAs } from '../media/media-folder';
import { receiveFile, type Received } from '../media/receive';
import { needRoom } from '../media/room';
import type { AppParts } from './app-parts';
import { clipViewOf } from './clip-view';
import { AppError } from './errors';
import { openProduction } from './production-view';

const Params = z.object({ id: z.uuid() });
/** The production that a clip is brought into; the first one if left out. */
const UploadQuery = z.object({
  production: z.uuid().optional(),
  /** What happens to a file that the production has already: refused with a sentence, or brought in once more. */
  known: z.enum(['refuse', 'add']).default('add'),
  /** The file is pictures one behind the other, to be shown so many a second. */
  pictures: z.coerce.number().min(1).max(240).optional(),
  /** The file is a clip with its depth behind it, which begins at this byte. */
  depthFrom: z.coerce.number().int().positive().optional(),
});
const PeopleQuery = z.object({ frame: z.coerce.number().int().min(0) });
const FileParams = z.object({ id: z.uuid(), file: z.enum(['proxy', 'poster', 'filmstrip', 'wave']) });

/** A file that came in, and what a person calls it. */
type NamedFile = Received & { name: string };

/** A square round the whole body. */
function seenPerson(sighting: Sighting): SeenPerson {
  const { score, hip } = sighting;
  const size = sightingSize(sighting);
  return { score, x: hip[0], y: hip[1], left: hip[0] - size / 2, top: hip[1] - size / 2, size };
}

/** A shown name: what the file was called, without a path, control characters and halves of signs. */
function shownName(name: string): string {
  const file = basename(name.replaceAll('\\', '/'));
  return [...file.replace(/[\p{Cc}\p{Surrogate}]/gu, '')].slice(0, 120).join('') || 'clip';
}

/** Footage: bring in, list, show, remove. */
export function clipRoutes({ connection, settings, scout, incoming, footage }: AppParts): FastifyPluginAsyncZod {
  const { db } = connection;
  const readyClip = async (id: string): Promise<typeof clips.$inferSelect> => {
    const [clip] = await db.select().from(clips).where(eq(clips.id, id));
    if (!clip) throw new AppError('CLIP_NOT_FOUND');
    if (clip.state !== 'ready') throw new AppError('CLIP_NOT_READY');
    return clip;
  };
  /** A clip whose prepared video is there; one that was dropped is made again. */
  const shownClip = async (id: string): Promise<typeof clips.$inferSelect> => {
    const clip = await readyClip(id);
    if (!(await footage.isThere(clip))) throw new AppError('CLIP_NOT_READY');
    return clip;
  };
  /** Has something made of what was sent, in its place. Its hash comes from what was sent and from how it is joined, so that the same is known again. */
  const joined = async (
    sent: NamedFile,
    how: number | string,
    join: (into: string) => Promise<void>,
  ): Promise<NamedFile> => {
    const made = `${sent.path}.mkv`;
    try {
      await join(made);
      await rename(made, sent.path);
    } finally {
      await rm(made, { force: true });
    }
    return { ...sent, hash: contentAs(sent.hash, how) };
  };
  const whole = async (
    sent: NamedFile,
    { pictures, depthFrom }: { pictures?: number; depthFrom?: number },
  ): Promise<NamedFile> => {
    if (pictures) return joined(sent, pictures, (into) => joinPictures(sent.path, pictures, into));
    if (depthFrom) return joined(sent, `depth ${depthFrom}`, (into) => joinDepth(sent.path, depthFrom, into));
    return sent;
  };
  /** The one file of a form. @param use what is done with it; whatever goes wrong, nothing of the file stays. */
  const withFile = async <T>(request: FastifyRequest, use: (file: NamedFile) => Promise<T>): Promise<T> => {
    if (!request.isMultipart()) throw new AppError('BAD_UPLOAD');
    await needRoom(settings.data, settings.room + Number(request.headers['content-length'] ?? 0));
    let received: NamedFile | undefined;
    try {
      for await (const part of request.files()) {
        const folder = join(incomingFolder(settings.data), incoming.name);
        received = { ...(await receiveFile(part.file, folder, settings.room)), name: shownName(part.filename) };
        if (part.file.truncated) throw new AppError('FILE_TOO_LARGE');
      }
      if (!received) throw new AppError('NO_FILE');
      return await use(received);
    } catch (error) {
      if (received) await rm(received.path, { force: true });
      if (error instanceof FootageError) throw new AppError('BAD_FIELD', error.message);
      throw isBrokenForm(error as Error) ? new AppError('BAD_UPLOAD') : error;
    }
  };
  return async (app) => {
    app.post('/api/clips', { schema: { querystring: UploadQuery } }, async (request, reply) => {
      const production = await openProduction(db, request.query.production);
      const clip = await withFile(request, async (sent) => {
        const file = await whole(sent, request.query);
        const known = request.query.known === 'refuse' && (await footage.known(file.hash, production.id));
        if (known) throw new AppError('KNOWN_FILE', `The same file is already here: “${known.name}”.`);
        return footage.add(file, production.id);
      });
      return reply.status(201).send(await clipViewOf(db, clip.id));
    });

    app.post('/api/clips/:id/replace', { schema: { params: Params } }, async (request, reply) => {
      const clip = await readyClip(request.params.id);
      if (!(await withFile(request, (file) => footage.replace(clip, file)))) throw new AppError('CLIP_NOT_READY');
      return reply.status(202).send();
    });

    app.patch(
      '/api/clips/:id',
      { schema: { params: Params, body: ClipChange, response: { 200: ClipView } } },
      async ({ params: { id }, body }) => {
        if (Object.keys(body).length > 0) await db.update(clips).set(body).where(eq(clips.id, id));
        const clip = await clipViewOf(db, id);
        if (!clip) throw new AppError('CLIP_NOT_FOUND');
        return clip;
      },
    );

    app.get('/api/clips/:id/looks', { schema: { params: Params, response: { 200: Looks } } }, async ({ params }) => {
      const { hash } = await readyClip(params.id);
      const [row] = await db.select({ looks: prepared.looks }).from(prepared).where(eq(prepared.hash, hash));
      if (!row?.looks) throw new AppError('NOT_JUDGED');
      return row.looks;
    });

    app.delete('/api/clips/:id', { schema: { params: Params } }, async ({ params: { id } }, reply) => {
      const [gone] = await db.delete(clips).where(eq(clips.id, id)).returning({ hash: clips.hash });
      if (!gone) throw new AppError('CLIP_NOT_FOUND');
      await footage.drop(gone.hash);
      return reply.status(204).send();
    });

    app.post('/api/clips/:id/prepare', { schema: { params: Params } }, async ({ params: { id } }, reply) => {
      if (!(await footage.prepareAgain(id, 'failed'))) throw new AppError('NOT_FAILED');
      return reply.status(202).send();
    });

    const people = { params: Params, querystring: PeopleQuery, response: { 200: SeenPeople } };
    app.get('/api/clips/:id/people', { schema: people }, async ({ params, query: { frame } }) => {
      const clip = await shownClip(params.id);
      if (frame >= (clip.facts?.frames ?? 0)) throw new AppError('BAD_FRAME');
      const path = clipFiles(settings.data, clip.hash).proxy;
      const { width, height, rate } = await probeClip(path);
      const found = await scout.people({ source: { path, width, height, rate, even: true, first: frame, count: 1 } });
      return { frame, width, height, people: found.map(({ sightings: [seen] }) => seenPerson(seen)) };
    });

    app.get('/api/clips/:id/:file', { schema: { params: FileParams } }, async ({ params: { id, file } }, reply) => {
      const { hash } = await (file === 'proxy' ? shownClip(id) : readyClip(id));
      const path = clipFiles(settings.data, hash)[file];
      return reply.sendFile(basename(path), dirname(path), { maxAge: '1d', immutable: true });
    });
  };
}

/** A form that ends in the middle, or was never one. */
const isBrokenForm = (error: Error & { code?: string }): boolean =>
  error.code === 'FST_INVALID_MULTIPART_CONTENT_TYPE' ||
  error.code === 'ERR_STREAM_PREMATURE_CLOSE' ||
  /Multipart: Boundary not found|Unexpected end of (form|file|multipart)|Malformed (part|urlencoded)|Part terminated early/i.test(
    error.message,
  );
