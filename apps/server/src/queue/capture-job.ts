import { and, asc, eq, inArray } from 'drizzle-orm';
import { observationsToBytes } from '@merry-shadow/contracts/observation-bytes';
import { pointsOf, type PerformerPoint } from '@merry-shadow/contracts/take';
import { groupOf, observationColumns, type Observations } from '@merry-shadow/core/observe/observations';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import type { FrameSource } from '@merry-shadow/tracker/node/frames';
import { FootageError, probeClip } from '@merry-shadow/tracker/node/probe';
import { depthWithin, withDepth } from '@merry-shadow/tracker/node/read-depth';
import { trackClip } from '@merry-shadow/tracker/node/track-clip';
import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import { guideFor, type Guide } from '@merry-shadow/tracker/people/guide';
import { followTold } from '@merry-shadow/tracker/people/told-people';
import type { Database } from '../database/connect';
import { observationChunks, runs } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { asNoRoom, needRoom } from '../media/room';
import { isDatabaseError, isOfNobody, shortMessage } from '../shell/errors-in-words';
import { solvedBytes } from '../solve/solved-take';
import { captureLane, type CaptureLane } from './queue';
import { claimGroup, type GroupMember } from './capture-group';
import type { WorkerTools } from './worker-tools';

const REPORT_MS = 400;
type RunRow = typeof runs.$inferSelect;
type Preview = NonNullable<RunRow['preview']>;

/**
 * Captures a run, and with it those that wait for other performers in the same frames: tracks the frames
 * once and stores the observations of each run piece by piece. A run that was broken off goes on behind
 * its last stored piece.
 */
export async function captureJob(tools: WorkerTools, runId: string): Promise<void> {
  const group = await claimGroup(tools, runId);
  if (!group) return;
  try {
    await capture(tools, group);
  } finally {
    for (const { lock } of group) await lock.release();
  }
}

/** Captures the run whose turn it is: jobs are turns, and of all that wait in a lane the one goes first that stands first in the order that a person gave them. */
export async function captureNext(tools: WorkerTools, runId: string, lane: CaptureLane): Promise<void> {
  await captureJob(tools, await nextRun(tools.connection.db, runId, lane));
}

/** @param runId which the job was made for: it is taken when nothing else waits. */
async function nextRun(db: Database, runId: string, lane: CaptureLane): Promise<string> {
  const waiting = await db
    .select({ id: runs.id, fromFrame: runs.fromFrame, untilFrame: runs.untilFrame })
    .from(runs)
    .where(eq(runs.state, 'waiting'))
    .orderBy(asc(runs.place), asc(runs.createdAt));
  return waiting.find(({ fromFrame, untilFrame }) => captureLane(untilFrame - fromFrame) === lane)?.id ?? runId;
}

async function capture(tools: WorkerTools, claimed: GroupMember[]): Promise<void> {
  const { settings, pool, connection } = tools;
  const { db } = connection;
  const abort = new AbortController();
  const signal = AbortSignal.any([abort.signal, tools.stopping, ...claimed.map(({ lock }) => lock.lost)]);
  const isOpen = and(
    inArray(
      runs.id,
      claimed.map(({ run }) => run.id),
    ),
    inArray(runs.state, ['waiting', 'running']),
  );
  // Who goes on with something stored goes on alone.
  const kept = [...claimed[0].stored.values()].reduce((sum, frames) => sum + frames, 0);
  let progress: ProgressReport | null = null;
  try {
    await needRoom(settings.data, settings.room);
    const begun = await db
      .update(runs)
      .set({ state: 'running', problem: null, doneFrames: kept })
      .where(isOpen)
      .returning({ id: runs.id });
    // Who was cancelled meanwhile stays so.
    const group = claimed.filter(({ run }) => begun.some(({ id }) => id === run.id));
    if (group.length === 0) return;
    const [{ run, hash, stored }] = group;
    progress = new ProgressReport(db, group, abort);
    const report = progress;
    const { original, proxy } = clipFiles(settings.data, hash);
    const depth = await depthWithin(original);
    const { width, height, rate } = await probeClip(proxy);
    const count = run.untilFrame - run.fromFrame;
    const source = { path: proxy, width, height, rate, even: true, first: run.fromFrame, count };
    const { hands, face, fine } = run.parts;
    const guides = await guidesTo(
      group.map(({ run: { parts } }) => pointsOf(parts.performer, parts.performerAgain)),
      pool,
      source,
      (done) => report.tell(() => ({ preview: { stage: 'people', frame: run.fromFrame + done, marks: [] } })),
      signal,
    );
    const began = performance.now();
    const result = await trackClip(pool, {
      source,
      hands,
      face,
      fine,
      guides,
      stored: new Set(stored.keys()),
      signal,
      onProgress: (done, { frame, marks }) =>
        report.tell((member) => ({
          doneFrames: done,
          framesPerSecond: ((done - kept) * 1000) / (performance.now() - began),
          preview: { stage: 'marks', frame: run.fromFrame + frame, marks: shortNumbers(marks[member]) },
        })),
      onPiece: async ({ first, observations }, member) => {
        await needRoom(settings.data, settings.room);
        const [seen] = depth
          ? await withDepth([observations], depth, { rate, first: run.fromFrame + first })
          : [observations];
        await store(db, { runId: group[member].run.id, first, frames: observations.frames }, seen);
      },
    });
    await progress.last;
    if (signal.aborted) return;
    for (const member of group) await finish(tools, member, result.frames, signal);
  } catch (error) {
    await progress?.last;
    // Cancelled, stopped, or the database went away: what stays open is taken up again by another worker.
    if (signal.aborted || isOfNobody(error)) return;
    const full = asNoRoom(error, settings.data, settings.room);
    if (!full && isDatabaseError(error)) throw error;
    await db
      .update(runs)
      .set(
        full
          ? { state: 'waiting', problem: full.message, preview: null }
          : { state: 'failed', problem: failure(error as Error, tools), preview: null, finishedAt: new Date() },
      )
      .where(isOpen);
  }
}

/** What the person is told; what nobody foresaw goes to the log, too. */
function failure(error: Error, { complain }: WorkerTools): string {
  if (error instanceof FootageError) return error.message;
  complain(error);
  return `Capturing broke off: ${shortMessage(error)}`;
}

/** A take is done when its motion is there to look at; that none can be made is told when it is asked for. */
async function finish(
  tools: WorkerTools,
  { run, take }: GroupMember,
  doneFrames: number,
  signal: AbortSignal,
): Promise<void> {
  const { db } = tools.connection;
  const still = and(eq(runs.id, run.id), eq(runs.state, 'running'));
  const preview: Preview = { stage: 'motion', frame: run.fromFrame, marks: [] };
  const open = await db.update(runs).set({ doneFrames, preview }).where(still).returning({ id: runs.id });
  if (open.length === 0) return;
  await solvedBytes({ db, solver: tools.solver, data: tools.settings.data }, run, take, signal).catch(
    (error: Error) => {
      if (!(error instanceof SolveError)) throw error;
    },
  );
  await db.update(runs).set({ state: 'done', preview: null, finishedAt: new Date() }).where(still);
}

/** Stores a piece, a row for each group of columns: all rows or none. */
async function store(
  db: Database,
  piece: { runId: string; first: number; frames: number },
  observations: Observations,
): Promise<void> {
  const groups = new Set(observationColumns(observations).map(({ name }) => groupOf(name)));
  const rows = [...groups].map((part) => ({
    ...piece,
    part,
    data: Buffer.from(observationsToBytes(observations, [part])),
  }));
  await db.insert(observationChunks).values(rows).onConflictDoNothing();
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
 * Finds the people of the take and whom of them the person has pointed at, for each performer.
 * @returns undefined when nobody was pointed at.
 * @throws FootageError when nobody is there.
 */
async function guidesTo(
  points: readonly (readonly PerformerPoint[])[],
  pool: TrackPool,
  source: FrameSource & { count: number },
  onProgress: (done: number) => void,
  signal: AbortSignal,
): Promise<Guide[] | undefined> {
  const chosen = points.filter((told) => told.length > 0);
  if (chosen.length === 0) return undefined;
  const people = await pool.people({ source }, ({ done }) => onProgress(done), signal);
  if (signal.aborted) return undefined;
  if (people.length === 0) throw new FootageError('Nobody was found between the in and the out point.');
  return chosen.map((told) => guideFor(followTold(people, told, source), 0));
}
