import { and, eq, inArray } from 'drizzle-orm';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import type { PerformerPoint } from '@merry-shadow/contracts/take';
import type { FrameSource } from '@merry-shadow/tracker/node/frames';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { trackClip } from '@merry-shadow/tracker/node/track-clip';
import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { guideFor, type Guide } from '@merry-shadow/tracker/people/guide';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import type { Connection } from '../database/connect';
import { clips, pieces, runs, takes } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import type { Settings } from '../settings';
import { solvedBytes } from '../solve/solved-take';
import { RunLock } from './run-lock';

const REPORT_MS = 400;

/** A piece could not be stored. */
class StoreError extends Error {
  override name = 'StoreError';
}

/**
 * Captures a run: tracks its frames and stores the observations piece by piece. A run that was
 * broken off goes on behind its last stored piece.
 */
export async function captureJob(
  connection: Connection,
  settings: Settings,
  pool: TrackPool,
  runId: string,
): Promise<void> {
  const lock = await RunLock.take(connection.pool, runId);
  if (!lock) return;
  try {
    await capture(connection, settings, pool, runId, lock.lost);
  } finally {
    await lock.release();
  }
}

async function capture(
  { db }: Connection,
  settings: Settings,
  pool: TrackPool,
  runId: string,
  lost: AbortSignal,
): Promise<void> {
  const [row] = await db
    .select({ run: runs, take: takes, hash: clips.hash })
    .from(runs)
    .innerJoin(takes, eq(runs.takeId, takes.id))
    .innerJoin(clips, eq(takes.clipId, clips.id))
    .where(eq(runs.id, runId));
  if (!row || !['waiting', 'running'].includes(row.run.state)) return;
  const { run } = row;
  const rows = await db
    .select({ first: pieces.first, frames: pieces.frames })
    .from(pieces)
    .where(eq(pieces.runId, runId));
  const kept = rows.reduce((sum, piece) => sum + piece.frames, 0);
  await db.update(runs).set({ state: 'running', doneFrames: kept }).where(eq(runs.id, runId));
  const { proxy } = clipFiles(settings.data, row.hash);
  const abort = new AbortController();
  lost.addEventListener('abort', () => abort.abort(), { once: true });
  const started = performance.now();
  let reported = started;
  let reporting: Promise<unknown> = Promise.resolve();
  type Change = { doneFrames?: number; framesPerSecond?: number; preview: NonNullable<typeof run.preview> };
  const report = (change: () => Change): void => {
    if (performance.now() - reported < REPORT_MS) return;
    reported = performance.now();
    reporting = db
      .update(runs)
      .set(change())
      .where(and(eq(runs.id, runId), eq(runs.state, 'running')))
      .returning({ id: runs.id })
      .then((still) => {
        if (still.length === 0) abort.abort(); // cancelled or deleted meanwhile
      })
      .catch(() => undefined);
  };
  try {
    const { width, height, rate } = await probeClip(proxy);
    const source = {
      path: proxy,
      width,
      height,
      rate,
      even: true,
      first: run.fromFrame,
      count: run.untilFrame - run.fromFrame,
    };
    const { hands, face, performer } = run.parts;
    const guide = performer
      ? await guideTo(
          performer,
          pool,
          source,
          (done) => report(() => ({ preview: { stage: 'people', frame: run.fromFrame + done, marks: [] } })),
          abort.signal,
        )
      : null;
    const began = performance.now();
    const result = await trackClip(pool, {
      source,
      hands,
      face,
      guides: guide ? [guide] : undefined,
      stored: new Set(rows.map((piece) => piece.first)),
      signal: abort.signal,
      onProgress: (done, { frame, marks }) =>
        report(() => ({
          doneFrames: done,
          framesPerSecond: ((done - kept) * 1000) / (performance.now() - began),
          preview: {
            stage: 'marks',
            frame: run.fromFrame + frame,
            marks: Array.from(marks, (value) => (Number.isFinite(value) ? Math.round(value * 100) / 100 : null)),
          },
        })),
      onPiece: async ({ first, observations }) => {
        const row = { runId, first, frames: observations.frames, data: Buffer.from(observationsToBytes(observations)) };
        await db
          .insert(pieces)
          .values(row)
          .onConflictDoNothing()
          .catch((error: Error) => {
            throw new StoreError(error.message, { cause: error });
          });
      },
    });
    await reporting;
    if (lost.aborted) throw new StoreError('The connection to the database was lost.');
    if (abort.signal.aborted) return;
    // A take is done when its motion is there to look at; that none can be made is told when it is asked for.
    await db
      .update(runs)
      .set({ doneFrames: result.frames, preview: { stage: 'motion', frame: run.fromFrame, marks: [] } })
      .where(and(eq(runs.id, runId), eq(runs.state, 'running')));
    await solvedBytes(db, runId, row.take).catch((error: Error) => {
      if (!(error instanceof SolveError)) throw error;
    });
    await db
      .update(runs)
      .set({ state: 'done', doneFrames: result.frames, preview: null, finishedAt: new Date() })
      .where(and(eq(runs.id, runId), eq(runs.state, 'running')));
  } catch (error) {
    await reporting;
    // The database went away: the run stays open, without its lock, and is taken up again.
    if (error instanceof StoreError) throw error;
    await db
      .update(runs)
      .set({ state: 'failed', problem: (error as Error).message, preview: null, finishedAt: new Date() })
      .where(and(eq(runs.id, runId), inArray(runs.state, ['running', 'waiting'])));
  }
}

/**
 * Finds the people of the take and whom of them the person has pointed at.
 * @throws FootageError when nobody is there.
 */
async function guideTo(
  point: PerformerPoint,
  pool: TrackPool,
  source: FrameSource & { count: number },
  onProgress: (done: number) => void,
  signal: AbortSignal,
): Promise<Guide | null> {
  const people = await pool.people({ source }, ({ done }) => onProgress(done), signal);
  if (signal.aborted) return null;
  const apart = people.map((person) => {
    const { sightings } = person;
    const nearest = sightings.reduce(
      (best, item) => (Math.abs(item.frame - point.frame) < Math.abs(best.frame - point.frame) ? item : best),
      sightings[0],
    );
    const seconds = Math.abs(nearest.frame - point.frame) / source.rate;
    return Math.hypot(nearest.hip[0] - point.x, nearest.hip[1] - point.y) / source.width + seconds;
  });
  if (apart.length === 0) throw new FootageError('Nobody was found between the in and the out point.');
  return guideFor(people, apart.indexOf(Math.min(...apart)));
}
