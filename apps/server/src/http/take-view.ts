import { desc } from 'drizzle-orm';
import { TakeSettings, type TakeView } from '@merry-shadow/contracts/take';
import { TakeEdits } from '@merry-shadow/core/passes/take-edits';
import type { Database } from '../database/connect';
import { runs, takes } from '../database/schema';

/** All takes with their newest run. */
export async function takeViews(db: Database): Promise<TakeView[]> {
  const rows = await db.select().from(takes).orderBy(takes.createdAt);
  const allRuns = await db.select().from(runs).orderBy(desc(runs.createdAt));
  return rows.map((take) => {
    const own = allRuns.filter((run) => run.takeId === take.id);
    const [run] = own;
    const done = own.find((item) => item.state === 'done');
    return {
      id: take.id,
      clipId: take.clipId,
      name: take.name,
      fromFrame: take.fromFrame,
      untilFrame: take.untilFrame,
      settings: TakeSettings.parse(take.settings),
      edits: TakeEdits.parse(take.edits),
      editsRevision: take.editsRevision,
      run: run
        ? {
            id: run.id,
            state: run.state,
            frames: run.untilFrame - run.fromFrame,
            doneFrames: run.doneFrames,
            framesPerSecond: run.framesPerSecond,
            problem: run.problem,
            preview: run.state === 'running' ? run.preview : null,
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
          }
        : null,
    };
  });
}
