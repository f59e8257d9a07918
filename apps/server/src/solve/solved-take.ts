import { createHash } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { TakeSettings } from '@merry-shadow/contracts/take';
import { shiftEdits, TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { toldOf } from '@merry-shadow/core/edits/told-of';
import { SOLVE_VERSION, type SolveOptions } from '@merry-shadow/core/solve/solve-take';
import { readMouth } from '@merry-shadow/tracker/node/read-mouth';
import type { Database } from '../database/connect';
import { clips, motions, type runs, type takes } from '../database/schema';
import { clipFiles } from '../media/media-folder';
import { companionsOf, observedIn } from './observed-take';
import { Shared } from './shared';
import type { SolvePool } from './solve-pool';

/** A run whose motion is asked for. */
type SolvedRun = Pick<typeof runs.$inferSelect, 'id' | 'fromFrame' | 'untilFrame'>;

/** Solves that are under way in this process: who asks for the same one waits for it. */
const underWay = new Shared<Buffer>();

/**
 * The solved motion of a run, as bytes: kept from last time, or made now and kept. A run keeps the motion of
 * the settings that it was asked for last.
 * @param signal of the one who asks: a solve for which nobody waits any more is broken off.
 * @throws SolveError with a sentence when no motion can be made.
 */
export async function solvedBytes(
  { db, solver, data }: { db: Database; solver: SolvePool; data: string },
  run: SolvedRun,
  take: typeof takes.$inferSelect,
  signal?: AbortSignal,
): Promise<Buffer> {
  const runId = run.id;
  const { height, fieldOfView, tilt, steady, calibration, neutral, cuts, slowMotion, manner } = TakeSettings.parse(
    take.settings,
  );
  const [clip] = await db.select({ facts: clips.facts, hash: clips.hash }).from(clips).where(eq(clips.id, take.clipId));
  const options: SolveOptions = {
    height: height ?? undefined,
    fieldOfView: fieldOfView ?? clip?.facts?.fieldOfView ?? undefined,
    tilt: tilt ?? undefined,
    steady,
    calibration: calibration === null ? undefined : calibration - run.fromFrame,
    neutral: neutral === null ? undefined : neutral - run.fromFrame,
    ...(cuts && { cuts: cuts.map((frame) => frame - run.fromFrame) }),
    manner,
    ...toldTo(take, run.fromFrame),
  };
  // Who was captured in the same frames shares camera, floor and scale.
  const companions = await companionsOf(db, run, take);
  const madeFrom = createHash('sha256')
    .update(
      JSON.stringify([SOLVE_VERSION, options, slowMotion, companions.map(({ run: { id }, height }) => [id, height])]),
    )
    .digest('hex');
  const [kept] = await db.select().from(motions).where(eq(motions.runId, runId));
  if (kept?.madeFrom === madeFrom) return kept.data;
  return underWay.join(`${runId} ${madeFrom}`, make, signal);

  async function make(unwanted: AbortSignal): Promise<Buffer> {
    const observations = await observedIn(db, runId, take);
    if (companions.length > 0)
      options.others = await Promise.all(
        companions.map(async (other) => ({
          footage: await observedIn(db, other.run.id, other.take),
          height: other.height,
        })),
      );
    // Slow motion slows voices, too.
    if (clip && slowMotion === 1)
      options.mouth = await readMouth(clipFiles(data, clip.hash).proxy, run.fromFrame, observations, unwanted);
    const made = Buffer.from(await solver.run({ solve: { observations, options } }, unwanted));
    await db
      .insert(motions)
      .values({ runId, madeFrom, data: made })
      .onConflictDoUpdate({ target: motions.runId, set: { madeFrom, data: made } });
    return made;
  }
}

/** What a person told to the solve, in the frames of a run; nothing where that is nothing. */
function toldTo({ edits }: typeof takes.$inferSelect, fromFrame: number): Pick<SolveOptions, 'marks' | 'hints'> {
  const { marks, hints } = toldOf(shiftEdits(TakeEdits.parse(edits), -fromFrame));
  return {
    ...(marks.moved.length + marks.hidden.length + (marks.swapped?.length ?? 0) > 0 && { marks }),
    ...(hints.length > 0 && { hints }),
  };
}
