import { and, eq, ne, or } from 'drizzle-orm';
import { readFile } from 'node:fs/promises';
import { alignByLoudness, refineOffset, SURE } from '@merry-shadow/core/sound/align';
import { readSamples, SOUND_RATE } from '@merry-shadow/tracker/node/read-sound';
import { inTransaction } from '../database/connect';
import { alignments, clips } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import type { WorkerTools } from './worker-tools';

/** Moments of loudness in a second, see `loudness`. */
const LOUDNESS_RATE = 100;
/** An offset by loudness is off by so much at most, seconds; and how much of both sounds makes it exact. */
const COARSE = 0.03;
const EXACT_SECONDS = 20;

/** Lines a clip up with all others of its production that have sound: which of them were recorded at the same time, and by how much apart. */
export async function alignClip(
  { connection, settings, stopping }: Pick<WorkerTools, 'connection' | 'settings' | 'stopping'>,
  clip: typeof clips.$inferSelect,
): Promise<void> {
  const own = await loudnessOf(settings.data, clip.hash);
  if (!own) return;
  const { db } = connection;
  const others = await db
    .select({ id: clips.id, hash: clips.hash })
    .from(clips)
    .where(and(eq(clips.productionId, clip.productionId), ne(clips.id, clip.id), eq(clips.state, 'ready')));
  const found: (typeof alignments.$inferInsert)[] = [];
  for (const other of others) {
    if (stopping.aborted) return;
    const loudness = other.hash === clip.hash ? null : await loudnessOf(settings.data, other.hash);
    const rough = loudness && alignByLoudness(own, loudness, LOUDNESS_RATE);
    if (!rough || rough.sure < SURE) continue;
    const offset = await exactOffset(settings.data, clip.hash, other.hash, rough.offset);
    found.push({ clipId: clip.id, otherId: other.id, offset, sure: rough.sure });
  }
  await inTransaction(connection, async (tx) => {
    await tx.delete(alignments).where(or(eq(alignments.clipId, clip.id), eq(alignments.otherId, clip.id)));
    if (found.length > 0) await tx.insert(alignments).values(found).onConflictDoNothing();
  });
}

const loudnessOf = (data: string, hash: string): Promise<Buffer | null> =>
  readFile(clipFiles(data, hash).wave).catch(() => null);

async function exactOffset(data: string, first: string, second: string, rough: number): Promise<number> {
  // Some seconds of what both share.
  const from = Math.max(0, rough);
  const [a, b] = await Promise.all(
    [
      [first, from],
      [second, from - rough],
    ].map(([hash, begin]) => readSamples(clipFiles(data, hash as string).proxy, begin as number, EXACT_SECONDS)),
  );
  return rough + refineOffset(a, b, SOUND_RATE, 0, COARSE);
}
