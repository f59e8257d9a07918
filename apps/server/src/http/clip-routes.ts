import { eq } from 'drizzle-orm';
import type { FastifyInstance } from 'fastify';
import { rm } from 'node:fs/promises';
import { dirname, basename } from 'node:path';
import { z } from 'zod';
import type { ClipView, SeenPeople, SeenPerson } from '@merry-shadow/contracts/clip';
import type { ProductionView } from '@merry-shadow/contracts/production';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import type { Sighting } from '@merry-shadow/tracker/people/associate';
import { clips } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { receiveFile } from '../media/receive';
import type { AppParts } from './app';
import { AppError } from './errors';
import { takeViews } from './take-view';

const Params = z.object({ id: z.uuid() });
const PeopleQuery = z.object({ frame: z.coerce.number().int().min(0) });
const FileParams = z.object({ id: z.uuid(), file: z.enum(['proxy', 'poster', 'filmstrip']) });

function clipView(row: typeof clips.$inferSelect): ClipView {
  return {
    id: row.id,
    name: row.name,
    state: row.state,
    problem: row.problem,
    progress: row.progress,
    facts: row.facts,
  };
}

/** A square round the whole body. */
function seenPerson({ score, hip, circle }: Sighting): SeenPerson {
  const size = 2 * Math.hypot(circle[0] - hip[0], circle[1] - hip[1]);
  return { score, x: hip[0], y: hip[1], left: hip[0] - size / 2, top: hip[1] - size / 2, size };
}

/** A shown name: what the file was called, without a path and without control characters. */
function shownName(name: string): string {
  const file = basename(name.replaceAll('\\', '/'));
  // eslint-disable-next-line no-control-regex
  return file.replace(/[\u0000-\u001f]/g, '').slice(0, 120) || 'clip';
}

/** Footage: bring in, list, show, remove. */
export function clipRoutes({ db, queue, settings, scout }: AppParts) {
  const readyClip = async (id: string): Promise<typeof clips.$inferSelect> => {
    const [clip] = await db.select().from(clips).where(eq(clips.id, id));
    if (!clip) throw new AppError('CLIP_NOT_FOUND');
    if (clip.state !== 'ready') throw new AppError('CLIP_NOT_READY');
    return clip;
  };
  return async (app: FastifyInstance): Promise<void> => {
    app.get('/api/production', async (): Promise<ProductionView> => {
      const rows = await db.select().from(clips).orderBy(clips.createdAt);
      return { clips: rows.map(clipView), takes: await takeViews(db) };
    });

    app.post('/api/clips', async (request, reply) => {
      const made: ClipView[] = [];
      for await (const part of request.files()) {
        const name = shownName(part.filename);
        const hash = await receiveFile(part.file, settings.data);
        if (part.file.truncated) throw new AppError('FILE_TOO_LARGE');
        const [clip] = await db.insert(clips).values({ name, hash }).returning();
        await queue.add('prepare', { clipId: clip.id });
        made.push(clipView(clip));
      }
      if (made.length === 0) throw new AppError('NO_FILE');
      return reply.status(201).send({ clips: made });
    });

    app.delete('/api/clips/:id', async (request, reply) => {
      const { id } = Params.parse(request.params);
      const [clip] = await db.delete(clips).where(eq(clips.id, id)).returning();
      if (!clip) throw new AppError('CLIP_NOT_FOUND');
      const others = await db.select({ id: clips.id }).from(clips).where(eq(clips.hash, clip.hash));
      if (others.length === 0) await rm(clipFiles(settings.data, clip.hash).folder, { recursive: true, force: true });
      return reply.status(204).send();
    });

    app.get('/api/clips/:id/people', async (request): Promise<SeenPeople> => {
      const clip = await readyClip(Params.parse(request.params).id);
      const { frame } = PeopleQuery.parse(request.query);
      if (frame >= (clip.facts?.frames ?? 0)) throw new AppError('BAD_FRAME');
      const path = clipFiles(settings.data, clip.hash).proxy;
      const { width, height, rate } = await probeClip(path);
      const people = await scout.people({ source: { path, width, height, rate, even: true, first: frame, count: 1 } });
      return { frame, width, height, people: people.map(({ sightings: [seen] }) => seenPerson(seen)) };
    });

    app.get('/api/clips/:id/:file', async (request, reply) => {
      const { id, file } = FileParams.parse(request.params);
      const path = clipFiles(settings.data, (await readyClip(id)).hash)[file];
      return reply.sendFile(basename(path), dirname(path), { maxAge: '1d', immutable: true });
    });
  };
}
