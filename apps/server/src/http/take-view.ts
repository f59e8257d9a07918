import { and, desc, eq, sql, type SQL } from 'drizzle-orm';
import { pointsOf, TakeSettings, type RunPreview, type TakeView } from '@merry-shadow/contracts/take';
import type { Database } from '../database/connect';
import { clips, runs, takes } from '../database/schema';

type TakeRow = typeof takes.$inferSelect;
type RunRow = typeof runs.$inferSelect;
/** What lists show of a take: everything but its edits. */
type ListedTake = Omit<TakeRow, 'edits'> & { replacedAt: Date | null };

const NO_SETTINGS = TakeSettings.parse({});

/** What a view tells of a run; not its preview, which changes with every frame. */
const RUN = {
  id: runs.id,
  takeId: runs.takeId,
  state: runs.state,
  fromFrame: runs.fromFrame,
  untilFrame: runs.untilFrame,
  doneFrames: runs.doneFrames,
  framesPerSecond: runs.framesPerSecond,
  parts: runs.parts,
  problem: runs.problem,
  place: runs.place,
  createdAt: runs.createdAt,
  stage: sql<RunPreview['stage'] | null>`${runs.preview} ->> 'stage'`,
};
type ListedRun = Pick<RunRow, Exclude<keyof typeof RUN, 'stage'>> & { stage: RunPreview['stage'] | null };

const TAKE = {
  id: takes.id,
  clipId: takes.clipId,
  name: takes.name,
  fromFrame: takes.fromFrame,
  untilFrame: takes.untilFrame,
  settings: takes.settings,
  revision: takes.revision,
  place: takes.place,
  best: takes.best,
  removedAt: takes.removedAt,
  replacedAt: clips.replacedAt,
  createdAt: takes.createdAt,
};

/** Takes with their newest runs, oldest first. @param where of which; takes and clips may be named. */
export async function takeViews(db: Database, where: SQL | undefined): Promise<TakeView[]> {
  const rows = await db
    .select(TAKE)
    .from(takes)
    .innerJoin(clips, eq(takes.clipId, clips.id))
    .where(where)
    .orderBy(takes.place, takes.createdAt);
  if (rows.length === 0) return [];
  const newestRuns = (state?: SQL) =>
    db
      .selectDistinctOn([runs.takeId], RUN)
      .from(runs)
      .innerJoin(takes, eq(runs.takeId, takes.id))
      .innerJoin(clips, eq(takes.clipId, clips.id))
      .where(and(where, state))
      .orderBy(runs.takeId, desc(runs.createdAt));
  const [newest, done] = await Promise.all([newestRuns(), newestRuns(eq(runs.state, 'done'))]);
  const [newestOf, doneOf] = [newest, done].map((list) => new Map(list.map((run) => [run.takeId, run])));
  return rows.map((take) => takeView(take, newestOf.get(take.id), doneOf.get(take.id)));
}

function takeView(take: ListedTake, run: ListedRun | undefined, done: ListedRun | undefined): TakeView {
  return {
    id: take.id,
    clipId: take.clipId,
    name: take.name,
    fromFrame: take.fromFrame,
    untilFrame: take.untilFrame,
    // Older rows lack what was added later; all were checked when they came.
    settings: { ...NO_SETTINGS, ...take.settings },
    revision: take.revision,
    best: take.best,
    removed: take.removedAt !== null,
    place: take.place,
    run: run
      ? {
          id: run.id,
          state: run.state,
          frames: run.untilFrame - run.fromFrame,
          doneFrames: run.doneFrames,
          framesPerSecond: run.framesPerSecond,
          problem: run.problem,
          place: run.place,
          stage: run.state === 'running' ? run.stage : null,
        }
      : null,
    captured: done
      ? {
          runId: done.id,
          fromFrame: done.fromFrame,
          untilFrame: done.untilFrame,
          hands: done.parts.hands,
          face: done.parts.face,
          fine: done.parts.fine ?? false,
          followed: pointsOf(done.parts.performer, done.parts.performerAgain),
          framesPerSecond: done.framesPerSecond,
          ofOldFile: take.replacedAt !== null && done.createdAt < take.replacedAt,
        }
      : null,
  };
}
