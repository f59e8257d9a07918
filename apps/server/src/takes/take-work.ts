import { and, asc, desc, eq, gte, isNotNull } from 'drizzle-orm';
import { stateOf, workOf, type TakeState } from '@merry-shadow/contracts/take-work';
import { TakeSettings, type RevisionView } from '@merry-shadow/contracts/take';
import { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { changeBetween, isEmptyChange, turnedRound, withChange, type Work } from '@merry-shadow/core/edits/work';
import type { Database } from '../database/connect';
import { takeRevisions, takes } from '../database/schema';

type TakeRow = typeof takes.$inferSelect;

/** How many revisions lie between two stored whole states. */
const SNAPSHOT_EVERY = 50;
/** The most revisions that are listed besides named versions. */
const MOST_LISTED = 200;

/** What a person has made of a take so far. */
export const takeState = ({ name, fromFrame, untilFrame, settings, edits }: TakeRow): TakeState => ({
  name,
  fromFrame,
  untilFrame,
  settings: TakeSettings.parse(settings),
  edits: TakeEdits.parse(edits),
});
const workOfTake = (take: TakeRow): Work => workOf(takeState(take));

/** Stores another state of a take's work, and what changed as a revision. @returns the new revision; the same where nothing changed. */
export async function storeWork(tx: Database, take: TakeRow, state: TakeState, label: string): Promise<number> {
  const work = workOf(state);
  const change = changeBetween(workOfTake(take), work);
  if (isEmptyChange(change)) return take.revision;
  const revision = take.revision + 1;
  await tx
    .update(takes)
    .set({ ...state, revision })
    .where(eq(takes.id, take.id));
  const snapshot = revision % SNAPSHOT_EVERY === 0 ? work : null;
  await tx.insert(takeRevisions).values({ takeId: take.id, revision, label, change, snapshot });
  return revision;
}

/** Stored revisions, newest first: the latest ones, and every named version. */
export async function revisionViews(db: Database, takeId: string): Promise<RevisionView[]> {
  const columns = {
    revision: takeRevisions.revision,
    label: takeRevisions.label,
    version: takeRevisions.version,
    createdAt: takeRevisions.createdAt,
  };
  const list = (where = eq(takeRevisions.takeId, takeId)) =>
    db.select(columns).from(takeRevisions).where(where).orderBy(desc(takeRevisions.revision));
  const latest = await list().limit(MOST_LISTED);
  const named = await list(and(eq(takeRevisions.takeId, takeId), isNotNull(takeRevisions.version)));
  const older = named.filter(({ revision }) => latest.every((row) => row.revision !== revision));
  return [...latest, ...older].map(({ createdAt, ...row }) => ({ ...row, at: createdAt.toISOString() }));
}

/** The state that a take's work had at a revision: from the nearest whole state after it, back over the changes between. */
export async function workAt(db: Database, take: TakeRow, revision: number): Promise<TakeState> {
  const rows = await db
    .select()
    .from(takeRevisions)
    .where(and(eq(takeRevisions.takeId, take.id), gte(takeRevisions.revision, revision)))
    .orderBy(asc(takeRevisions.revision));
  const whole = rows.findIndex(({ snapshot }) => snapshot !== null);
  const later = whole < 0 ? rows : rows.slice(0, whole + 1);
  const start = later.at(-1)?.snapshot ?? workOfTake(take);
  const back = later.filter((row) => row.revision > revision).reverse();
  const { fields, edits } = back.reduce((work, { change }) => withChange(work, turnedRound(change)), start);
  return stateOf({ fields, edits: TakeEdits.parse(edits) });
}
