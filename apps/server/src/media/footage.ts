import { and, eq } from 'drizzle-orm';
import { rm, stat } from 'node:fs/promises';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { inTransaction, type Connection } from '../database/connect';
import type { Locks } from '../database/locks';
import { clips, prepared } from '../database/schema';
import type { Queue } from '../queue/queue';
import { clipFiles, contentAs } from './media-folder';
import { placeOriginal, type Received } from './receive';

type ClipRow = typeof clips.$inferSelect;

/** Files as clips: each file lies under its content's hash, for all clips that have it. */
export class Footage {
  constructor(
    private readonly connection: Connection,
    private readonly locks: Locks,
    private readonly queue: Queue,
    private readonly settings: { data: string },
  ) {}

  /** Gives a received file its place, its row and its job: all three, or none. */
  async add(received: Received & { name: string }, productionId: string): Promise<ClipRow> {
    const { name, hash } = received;
    const lock = await this.locks.wait('files', hash);
    try {
      await placeOriginal(received, this.settings.data);
      return await inTransaction(this.connection, async (tx, client) => {
        const [clip] = await tx.insert(clips).values({ name, hash, productionId }).returning();
        await this.queue.add('prepare', { clipId: clip.id }, client);
        return clip;
      });
    } finally {
      await lock.release();
    }
  }

  /** The clip of a production that has this content. */
  async known(hash: string, productionId: string): Promise<ClipRow | undefined> {
    const same = and(eq(clips.hash, hash), eq(clips.productionId, productionId));
    return (await this.connection.db.select().from(clips).where(same).limit(1))[0];
  }

  /** Has a clip prepared anew if it is in a state. @param change what else becomes of it. @returns whether it was in that state. */
  prepareAgain(id: string, from: ClipRow['state'], change: Partial<ClipRow> = {}): Promise<boolean> {
    return inTransaction(this.connection, async (tx, client) => {
      const rows = await tx
        .update(clips)
        .set({ state: 'waiting', problem: null, progress: 0, tries: 0, ...change })
        .where(and(eq(clips.id, id), eq(clips.state, from)))
        .returning({ id: clips.id });
      if (rows.length > 0) await this.queue.add('prepare', { clipId: id }, client);
      return rows.length > 0;
    });
  }

  /**
   * Puts another file in a ready clip's place; takes keep their frames: where the new file has another rate, it is brought to the one that takes
   * and edits count in.
   * @throws FootageError when it is no readable video. @returns whether the clip was still there and ready.
   */
  async replace({ id, hash: before, facts }: ClipRow, received: Received): Promise<boolean> {
    const probed = await probeClip(received.path);
    const counted = facts?.rate ?? probed.rate;
    const rate = Math.abs(probed.rate / counted - 1) < 1e-3 ? null : counted;
    const hash = rate === null ? received.hash : contentAs(received.hash, rate);
    const lock = await this.locks.wait('files', hash);
    let replaced: boolean;
    try {
      await placeOriginal({ ...received, hash }, this.settings.data);
      replaced = await this.prepareAgain(id, 'ready', { hash, rate, judged: null, replacedAt: new Date() });
    } finally {
      await lock.release();
    }
    // Of two contents one has lost its clip.
    if (hash !== before) await this.drop(replaced ? before : hash);
    return replaced;
  }

  /** Has the prepared video made again where it was dropped. @returns whether it is there. */
  async isThere({ id, hash, state }: ClipRow): Promise<boolean> {
    if (state !== 'ready') return false;
    if (await stat(clipFiles(this.settings.data, hash).proxy).catch(() => null)) return true;
    await this.prepareAgain(id, 'ready');
    return false;
  }

  /** Takes away a content's files, unless a clip has it. */
  async drop(hash: string): Promise<void> {
    // The same content may be arriving again right now: its lock is waited for.
    const lock = await this.locks.wait('files', hash);
    try {
      const { db } = this.connection;
      const owners = await db.select({ id: clips.id }).from(clips).where(eq(clips.hash, hash)).limit(1);
      if (owners.length > 0) return;
      await db.delete(prepared).where(eq(prepared.hash, hash));
      await rm(clipFiles(this.settings.data, hash).folder, { recursive: true, force: true });
    } finally {
      await lock.release();
    }
  }
}
