import { and, asc, desc, eq, gt, inArray, lt, ne, sql } from 'drizzle-orm';
import { joinObservationBytes } from '@merry-shadow/contracts/observation-bytes';
import { TakeSettings } from '@merry-shadow/contracts/take';
import {
  OBSERVATION_GROUPS,
  sliceObservations,
  type ObservationGroup,
  type Observations,
} from '@merry-shadow/core/observe/observations';
import type { Database } from '../database/connect';
import { observationChunks, runs, takes } from '../database/schema';

type TakeRow = typeof takes.$inferSelect;

/** The newest finished run of a take, or undefined. */
export async function newestRun(db: Database, takeId: string): Promise<typeof runs.$inferSelect | undefined> {
  const [run] = await db
    .select()
    .from(runs)
    .where(and(eq(runs.takeId, takeId), eq(runs.state, 'done')))
    .orderBy(desc(runs.createdAt))
    .limit(1);
  return run;
}

/** Which of a run's observations are read: groups of columns, frames; all where nothing is said. */
export interface WantedObservations {
  groups?: readonly ObservationGroup[];
  from?: number;
  until?: number;
}

/** What a run has seen, in the true time of the performance. Columns that are not wanted are left out or empty. */
export async function observedIn(
  db: Database,
  runId: string,
  take: TakeRow,
  { groups = OBSERVATION_GROUPS, from = 0, until = Infinity }: WantedObservations = {},
): Promise<Observations> {
  const inFrames = [gt(sql`${observationChunks.first} + ${observationChunks.frames}`, from)];
  if (until < Infinity) inFrames.push(lt(observationChunks.first, until));
  const rows = await db
    .select()
    .from(observationChunks)
    .where(and(eq(observationChunks.runId, runId), inArray(observationChunks.part, [...groups, 'all']), ...inFrames))
    .orderBy(observationChunks.first);
  const begin = rows[0]?.first ?? 0;
  const seen = joinObservationBytes(rows.map(({ first, data }) => ({ first: first - begin, bytes: data })));
  const [first, end] = [Math.max(0, from - begin), Math.min(seen.frames, until - begin)];
  const whole = first > 0 || end < seen.frames ? sliceObservations(seen, first, Math.max(first, end)) : seen;
  // Slow-motion footage holds more frames for a second of life than for a second of film.
  return { ...whole, rate: whole.rate * TakeSettings.parse(take.settings).slowMotion };
}

/** Another performer of the same frames: the run that saw them, and how tall they are said to be. */
export interface Companion {
  run: typeof runs.$inferSelect;
  take: TakeRow;
  height: number | undefined;
}

/** The most companions that are asked. */
const MOST_COMPANIONS = 5;

/** Who else was captured in just the frames of a run: newest finished runs of other takes of its clip, in the order of the takes. */
export async function companionsOf(
  db: Database,
  { fromFrame, untilFrame }: Pick<typeof runs.$inferSelect, 'fromFrame' | 'untilFrame'>,
  take: TakeRow,
): Promise<Companion[]> {
  const { slowMotion } = TakeSettings.parse(take.settings);
  const rows = await db
    .select({ run: runs, take: takes })
    .from(runs)
    .innerJoin(takes, eq(runs.takeId, takes.id))
    .where(
      and(
        eq(takes.clipId, take.clipId),
        ne(takes.id, take.id),
        eq(runs.state, 'done'),
        eq(runs.fromFrame, fromFrame),
        eq(runs.untilFrame, untilFrame),
      ),
    )
    .orderBy(asc(takes.createdAt), asc(takes.id), desc(runs.createdAt));
  const newest = rows.filter((row, i) => i === 0 || rows[i - 1].take.id !== row.take.id);
  return newest
    .map((row) => ({ ...row, settings: TakeSettings.parse(row.take.settings) }))
    .filter(({ settings }) => settings.slowMotion === slowMotion)
    .slice(0, MOST_COMPANIONS)
    .map(({ run, take: other, settings }) => ({ run, take: other, height: settings.height ?? undefined }));
}
