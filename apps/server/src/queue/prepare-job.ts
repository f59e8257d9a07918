import { eq } from 'drizzle-orm';
import { FootageError } from '@merry-shadow/tracker/node/probe';
import type { Database } from '../database/connect';
import { clips, takes } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { prepareClip } from '../media/prepare';
import type { Settings } from '../settings';

/** Prepares a clip, and gives it its first take over the whole length. */
export async function prepareJob(db: Database, settings: Settings, clipId: string): Promise<void> {
  const [clip] = await db.select().from(clips).where(eq(clips.id, clipId));
  if (!clip || clip.state === 'ready') return;
  let saved = 0;
  const save = (progress: number): void => {
    if (progress - saved < 0.05) return;
    saved = progress;
    void db
      .update(clips)
      .set({ progress })
      .where(eq(clips.id, clipId))
      .catch(() => undefined);
  };
  await db.update(clips).set({ state: 'preparing', progress: 0, problem: null }).where(eq(clips.id, clipId));
  try {
    const facts = await prepareClip(clipFiles(settings.data, clip.hash), save);
    await db.transaction(async (tx) => {
      await tx.update(clips).set({ state: 'ready', progress: 1, facts }).where(eq(clips.id, clipId));
      const own = await tx.select({ id: takes.id }).from(takes).where(eq(takes.clipId, clipId));
      if (own.length === 0)
        await tx.insert(takes).values({
          clipId,
          name: `${clip.name.replace(/\.[^.]+$/, '')} · take 1`,
          fromFrame: 0,
          untilFrame: facts.frames,
          settings: { height: null, fieldOfView: null },
        });
    });
  } catch (error) {
    if (!(error instanceof FootageError)) throw error;
    await db.update(clips).set({ state: 'failed', problem: error.message }).where(eq(clips.id, clipId));
  }
}
