import { and, eq, inArray } from 'drizzle-orm';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import type { PerformerPoint } from '@merry-shadow/contracts/take';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import type { FrameSource } from '@merry-shadow/tracker/node/frames';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { trackClip } from '@merry-shadow/tracker/node/track-clip';
import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { guideFor, type Guide } from '@merry-shadow/tracker/people/guide';
import type { Person } from '@merry-shadow/tracker/people/associate';
import type { Connection, Database } from '../database/connect';
import { pieces, runs } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import type { Settings } from '../settings';
import { solvedBytes } from '../solve/solved-take';
import { claimGroup, type GroupMember } from './capture-group';

const REPORT_MS = 400;
type RunRow = typeof runs.$inferSelect;
type Preview = NonNullable<RunRow['preview']>;

/** A piece could not be stored. */
class StoreError extends Error {
  override name = 'StoreError';
}

/**
 * Captures a run, and with it those that wait for other performers in the same frames: tracks the frames
 * once and stores the observations of each run piece by piece. A run that was broken off goes on behind
 * its last stored piece.
 */
export async function captureJob(
  connection: Connection,
  settings: Settings,
  pool: TrackPool,
  runId: string,
): Promise<void> {
  const group = await claimGroup(connection, runId);
  if (!group) return;
  try {
    await capture(connection.db, settings, pool, group);
  } finally {
    for (const { lock } of group) await lock.release();
  }
}

async function capture(db: Database, settings: Settings, pool: TrackPool, group: GroupMember[]): Promise<void> {
  const [{ run, hash, stored }] = group;
  const kept = [...stored.values()].reduce((sum, frames) => sum + frames, 0);
  const abort = new AbortController();
  for (const { lock } of group) lock.lost.addEventListener('abort', () => abort.abort(), { once: true });
  const ids = group.map((member) => member.run.id);
  await db.update(runs).set({ state: 'running', doneFrames: kept }).where(inArray(runs.id, ids));
  const progress = new ProgressReport(db, group, abort);
  try {
    const { proxy } = clipFiles(settings.data, hash);
    const { width, height, rate } = await probeClip(proxy);
    const count = run.untilFrame - run.fromFrame;
    const source = { path: proxy, width, height, rate, even: true, first: run.fromFrame, count };
    const { hands, face, fine } = run.parts;
    const guides = await guidesTo(
      group.map((member) => member.run.parts.performer),
      pool,
      source,
      (done) => progress.tell(() => ({ preview: { stage: 'people', frame: run.fromFrame + done, marks: [] } })),
      abort.signal,
    );
    const began = performance.now();
    const result = await trackClip(pool, {
      source,
      hands,
      face,
      fine,
      guides,
      stored: new Set(stored.keys()),
      signal: abort.signal,
      onProgress: (done, { frame, marks }) =>
        progress.tell((member) => ({
          doneFrames: done,
          framesPerSecond: ((done - kept) * 1000) / (performance.now() - began),
          preview: { stage: 'marks', frame: run.fromFrame + frame, marks: shortNumbers(marks[member]) },
        })),
      onPiece: ({ first, observations }, member) =>
        store(db, { runId: ids[member], first, frames: observations.frames }, observationsToBytes(observations)),
    });
    await progress.last;
    if (group.some(({ lock }) => lock.lost.aborted)) throw new StoreError('The connection to the database was lost.');
    if (abort.signal.aborted) return;
    for (const member of group) await finish(db, member, result.frames);
  } catch (error) {
    await progress.last;
    // The database went away: the runs stay open, without their locks, and are taken up again.
    if (error instanceof StoreError) throw error;
    await db
      .update(runs)
      .set({ state: 'failed', problem: (error as Error).message, preview: null, finishedAt: new Date() })
      .where(and(inArray(runs.id, ids), inArray(runs.state, ['running', 'waiting'])));
  }
}

/** A take is done when its motion is there to look at; that none can be made is told when it is asked for. */
async function finish(db: Database, { run, take }: GroupMember, doneFrames: number): Promise<void> {
  const still = and(eq(runs.id, run.id), eq(runs.state, 'running'));
  const preview: Preview = { stage: 'motion', frame: run.fromFrame, marks: [] };
  const open = await db.update(runs).set({ doneFrames, preview }).where(still).returning({ id: runs.id });
  if (open.length === 0) return;
  await solvedBytes(db, run, take).catch((error: Error) => {
    if (!(error instanceof SolveError)) throw error;
  });
  await db.update(runs).set({ state: 'done', preview: null, finishedAt: new Date() }).where(still);
}

/** @throws StoreError when the database does not take the piece. */
async function store(
  db: Database,
  piece: { runId: string; first: number; frames: number },
  data: Uint8Array,
): Promise<void> {
  await db
    .insert(pieces)
    .values({ ...piece, data: Buffer.from(data) })
    .onConflictDoNothing()
    .catch((error: Error) => {
      throw new StoreError(error.message, { cause: error });
    });
}

const shortNumbers = (marks: Float32Array): (number | null)[] =>
  Array.from(marks, (value) => (Number.isFinite(value) ? Math.round(value * 100) / 100 : null));

type Change = { doneFrames?: number; framesPerSecond?: number; preview: Preview };

/** Writes down now and then how far a group is; stops the work when no run of it is wanted any more. */
class ProgressReport {
  /** The last word that was sent. */
  last: Promise<unknown> = Promise.resolve();
  private told = performance.now();

  constructor(
    private readonly db: Database,
    private readonly group: readonly GroupMember[],
    private readonly abort: AbortController,
  ) {}

  tell(change: (member: number) => Change): void {
    if (performance.now() - this.told < REPORT_MS) return;
    this.told = performance.now();
    this.last = Promise.all(
      this.group.map(({ run }, member) =>
        this.db
          .update(runs)
          .set(change(member))
          .where(and(eq(runs.id, run.id), eq(runs.state, 'running')))
          .returning({ id: runs.id }),
      ),
    )
      .then((still) => {
        if (still.every((rows) => rows.length === 0)) this.abort.abort(); // cancelled or deleted meanwhile
      })
      .catch(() => undefined);
  }
}

/**
 * Finds the people of the take and whom of them the person has pointed at, for each point.
 * @returns undefined when nobody was pointed at.
 * @throws FootageError when nobody is there.
 */
async function guidesTo(
  points: readonly (PerformerPoint | null | undefined)[],
  pool: TrackPool,
  source: FrameSource & { count: number },
  onProgress: (done: number) => void,
  signal: AbortSignal,
): Promise<Guide[] | undefined> {
  const chosen = points.filter((point): point is PerformerPoint => !!point);
  if (chosen.length === 0) return undefined;
  const people = await pool.people({ source }, ({ done }) => onProgress(done), signal);
  if (signal.aborted) return undefined;
  if (people.length === 0) throw new FootageError('Nobody was found between the in and the out point.');
  return chosen.map((point) => guideFor(people, nearestPerson(people, point, source)));
}

/** Who was nearest to a point, in place and time. */
function nearestPerson(people: readonly Person[], point: PerformerPoint, { width, rate }: FrameSource): number {
  const apart = people.map(({ sightings }) => {
    const nearest = sightings.reduce(
      (best, item) => (Math.abs(item.frame - point.frame) < Math.abs(best.frame - point.frame) ? item : best),
      sightings[0],
    );
    const seconds = Math.abs(nearest.frame - point.frame) / rate;
    return Math.hypot(nearest.hip[0] - point.x, nearest.hip[1] - point.y) / width + seconds;
  });
  return apart.indexOf(Math.min(...apart));
}
