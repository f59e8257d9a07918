import { and, eq, isNull } from 'drizzle-orm';
import type { JudgedSummary } from '@merry-shadow/contracts/clip';
import { judgeFootage } from '@merry-shadow/core/judge/registry';
import { Looks } from '@merry-shadow/core/judge/looks';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { clips, prepared } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { isDatabaseError } from '../shell/errors-in-words';
import { alignClip } from './align-clip';
import type { WorkerTools } from './worker-tools';

/**
 * Looks at a prepared clip, so that what will cost quality is told before it is tracked, and lines it up with others by its sound. What was measured belongs to the content: another clip of the same
 * file has it at once.
 */
export async function judgeJob(tools: WorkerTools, clipId: string): Promise<void> {
  const { connection, locks, pool, settings, stopping, complain } = tools;
  const { db } = connection;
  const [clip] = await db.select().from(clips).where(eq(clips.id, clipId));
  if (clip?.state !== 'ready' || clip.judged) return;
  const lock = await locks.take('judge', clip.hash);
  // Somebody looks at the same content; this clip gets it, too.
  if (!lock) return;
  const open = and(eq(clips.hash, clip.hash), eq(clips.state, 'ready'), isNull(clips.judged));
  try {
    const [known] = await db.select({ looks: prepared.looks }).from(prepared).where(eq(prepared.hash, clip.hash));
    let looks = Looks.safeParse(known?.looks).data;
    if (!looks) {
      const { original, proxy, small } = clipFiles(settings.data, clip.hash);
      const { bitsPerPixel } = await probeClip(original);
      const { width, height, rate, frames } = await probeClip(proxy);
      const signal = AbortSignal.any([lock.lost, stopping]);
      looks = await pool.looks({ source: { path: proxy, small, width, height, rate, frames, bitsPerPixel } }, signal);
      if (signal.aborted) return;
      await db.update(prepared).set({ looks }).where(eq(prepared.hash, clip.hash));
    }
    for (const same of await db.select().from(clips).where(open)) await alignClip(tools, same);
    if (stopping.aborted) return;
    await db
      .update(clips)
      .set({ judged: summaryOf(looks) })
      .where(open);
  } catch (error) {
    if (lock.lost.aborted || stopping.aborted || isDatabaseError(error)) throw error;
    // Nobody waits for it any more: its files may be gone.
    if ((await db.select({ id: clips.id }).from(clips).where(open)).length === 0) return;
    // A clip that can't be looked at can still be tracked.
    complain(error as Error);
    await db
      .update(clips)
      .set({ judged: { count: 0, severity: 0, worst: 'It could not be looked at.' } })
      .where(open);
  } finally {
    await lock.release();
  }
}

function summaryOf(looks: Looks): JudgedSummary {
  const found = judgeFootage(looks);
  return { count: found.length, severity: found[0]?.severity ?? 0, worst: found[0]?.says ?? null };
}
