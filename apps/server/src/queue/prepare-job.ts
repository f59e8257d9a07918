import { randomUUID } from 'node:crypto';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { ClipFacts } from '@merry-shadow/contracts/clip';
import { FootageError, type ClipFacts as ProbedFacts } from '@merry-shadow/tracker/node/probe';
import { inTransaction, type Database } from '../database/connect';
import type { Lock } from '../database/locks';
import { clips, prepared, takes } from '../database/schema';
import { clipFiles, preparedFiles, TRY, type ClipFiles } from '../media/media-folder';
import { originalFacts, prepareClip } from '../media/prepare';
import { asNoRoom, needRoom } from '../media/room';
import { isDatabaseError, shortMessage } from '../shell/errors-in-words';
import { storeWork, takeState } from '../takes/take-work';
import type { WorkerTools } from './worker-tools';

/** Seconds of footage that are prepared in the lane for short clips. */
const SHORT_SECONDS = 180;
/** A content that was begun so often, and never ended, takes its worker down each time. */
const MOST_TRIES = 12;
const WATCH_MS = 500;

/**
 * Prepares the content of a clip, and gives every clip that waits for the same content its first take over the
 * whole length. Whoever prepares holds the content's lock; when he dies, `adoptOrphans` begins again.
 * @param long whether this lane is for long clips; a long clip in the other lane is passed on.
 */
export async function prepareJob(tools: WorkerTools, clipId: string, long: boolean): Promise<void> {
  const { connection, locks } = tools;
  const [clip] = await connection.db.select().from(clips).where(eq(clips.id, clipId));
  if (!clip || !isOpen(clip.state)) return;
  const lock = await locks.take('prepare', clip.hash);
  // Somebody prepares the same content; this clip gets it, too.
  if (!lock) return;
  try {
    await new ContentPreparation(tools, clip.hash, lock).run(clipId, long);
  } finally {
    await lock.release();
  }
}

const isOpen = (state: (typeof clips.$inferSelect)['state']): boolean => state === 'waiting' || state === 'preparing';

/** One try to prepare a content. */
class ContentPreparation {
  private readonly files: ClipFiles;
  private readonly db: Database;
  /** Aborted when no clip waits for the content any more. */
  private readonly unwanted = new AbortController();
  private readonly signal: AbortSignal;

  constructor(
    private readonly tools: WorkerTools,
    private readonly hash: string,
    lock: Lock,
  ) {
    this.db = tools.connection.db;
    this.files = clipFiles(tools.settings.data, hash);
    this.signal = AbortSignal.any([lock.lost, tools.stopping, this.unwanted.signal]);
  }

  async run(clipId: string, long: boolean): Promise<void> {
    try {
      const facts = (await this.known()) ?? (await this.make(clipId, long));
      if (facts) await this.finish(facts);
    } catch (error) {
      if (this.signal.aborted) return;
      const full = asNoRoom(error, this.files.folder, this.tools.settings.room);
      // The clip is taken up again by and by, and goes on once there is room.
      if (full) return await this.end({ state: 'waiting', progress: 0, problem: full.message }).catch(() => undefined);
      if (isDatabaseError(error)) throw error;
      if (!(error instanceof FootageError)) this.tools.complain(error as Error);
      await this.end({ state: 'failed', problem: sentence(error as Error) });
    }
  }

  /** All clips of this content that wait for it. */
  private get waiting() {
    return and(eq(clips.hash, this.hash), inArray(clips.state, ['waiting', 'preparing']));
  }

  private async end(change: Partial<typeof clips.$inferInsert>): Promise<void> {
    await this.db.update(clips).set(change).where(this.waiting);
  }

  /** What was finished before, if it is still there whole. */
  private async known(): Promise<ClipFacts | null> {
    const [row] = await this.db.select().from(prepared).where(eq(prepared.hash, this.hash));
    if (!row) return null;
    const sizes = await sizesOf(this.files.prepared);
    return JSON.stringify(sizes) === JSON.stringify(row.sizes) ? row.facts : null;
  }

  private async make(clipId: string, long: boolean): Promise<ClipFacts | null> {
    const { settings, queue, connection } = this.tools;
    await needRoom(settings.data, settings.room);
    const begun = await this.db
      .update(clips)
      .set({ state: 'preparing', progress: 0, problem: null, tries: sql`${clips.tries} + 1` })
      .where(this.waiting)
      .returning({ tries: clips.tries });
    if (begun.length === 0) return null;
    if (begun.every(({ tries }) => tries > MOST_TRIES))
      throw new FootageError(`Preparing broke off ${MOST_TRIES} times. The file may be damaged in an unusual way.`);
    const original = await this.facts();
    if (!long && original.seconds > SHORT_SECONDS) {
      await inTransaction(connection, async (db, client) => {
        await db.update(clips).set({ state: 'waiting' }).where(this.waiting);
        await queue.add('prepareLong', { clipId }, client);
      });
      return null;
    }
    const into = preparedFiles(join(this.files.folder, `${TRY}${randomUUID()}`));
    let progress = 0;
    const watch = setInterval(() => void this.tell(progress), WATCH_MS);
    try {
      await mkdir(into.prepared, { recursive: true });
      const facts = await prepareClip(original, {
        original: this.files.original,
        into,
        limits: settings.limits,
        room: settings.room,
        onProgress: (part) => (progress = part),
        signal: this.signal,
      });
      return (await this.putInPlace(into.prepared, facts)) ? facts : null;
    } finally {
      clearInterval(watch);
      await rm(into.prepared, { recursive: true, force: true });
    }
  }

  /** What the original is; with the rate that a clip asks for, where it replaced another one. */
  private async facts(): Promise<ProbedFacts> {
    const facts = await originalFacts(this.files.original, this.tools.settings.limits);
    const [asked] = await this.db.select({ rate: clips.rate }).from(clips).where(eq(clips.hash, this.hash));
    return asked?.rate ? { ...facts, rate: asked.rate, frames: Math.round(facts.seconds * asked.rate) } : facts;
  }

  private async tell(progress: number): Promise<void> {
    const still = await this.db
      .update(clips)
      .set({ progress })
      .where(this.waiting)
      .returning({ id: clips.id })
      .catch(() => null);
    if (still?.length === 0) this.unwanted.abort();
  }

  /** One rename, and the row that makes it count. @returns whether anybody still wants it. */
  private async putInPlace(made: string, facts: ClipFacts): Promise<boolean> {
    const lock = await this.tools.locks.wait('files', this.hash);
    try {
      const wanted = await this.db.select({ id: clips.id }).from(clips).where(eq(clips.hash, this.hash));
      this.signal.throwIfAborted();
      if (wanted.length === 0) return false;
      // Whoever made another try has lost the lock on the content: it is dead.
      for (const path of (await readdir(this.files.folder)).map((name) => join(this.files.folder, name)))
        if (path !== this.files.original && path !== made) await rm(path, { recursive: true, force: true });
      await rename(made, this.files.prepared);
      const row = { facts, sizes: await sizesOf(this.files.prepared) };
      await this.db
        .insert(prepared)
        .values({ hash: this.hash, ...row })
        .onConflictDoUpdate({ target: prepared.hash, set: row });
      return true;
    } finally {
      await lock.release();
    }
  }

  private async finish(facts: ClipFacts): Promise<void> {
    await inTransaction(this.tools.connection, async (db, client) => {
      const done = await db
        .update(clips)
        .set({ state: 'ready', progress: 1, problem: null, facts })
        .where(this.waiting)
        .returning({ id: clips.id, name: clips.name });
      if (done.length > 0) await this.tools.queue.add('judge', { clipId: done[0].id }, client);
      for (const { id, name } of done) {
        const own = await db.select().from(takes).where(eq(takes.clipId, id));
        // A file that replaced a longer one: takes end with it.
        for (const take of own)
          if (take.untilFrame > facts.frames)
            await storeWork(
              db,
              take,
              {
                ...takeState(take),
                fromFrame: Math.min(take.fromFrame, facts.frames - 1),
                untilFrame: facts.frames,
              },
              'end with the new file',
            );
        if (own.length === 0)
          await db.insert(takes).values({
            clipId: id,
            name: `${name.replace(/\.[^.]+$/, '')} · take 1`,
            fromFrame: 0,
            untilFrame: facts.frames,
            settings: { height: null, fieldOfView: null },
          });
      }
    });
  }
}

/** Names and sizes of the files in a folder, by name. */
async function sizesOf(folder: string): Promise<[string, number][]> {
  const names = (await readdir(folder).catch(() => [])).sort();
  return Promise.all(
    names.map(async (name): Promise<[string, number]> => [name, (await stat(join(folder, name))).size]),
  );
}

const sentence = (error: Error): string =>
  error instanceof FootageError
    ? error.message
    : `The clip could not be prepared: ${shortMessage(error)}. The log of the start command tells more.`;
