import { plantsWithin } from '../ground/plants';
import type { Motion } from '../motion/motion';
import type { Run } from '../signal/runs';
import { findSnags, graveness } from '../snags/registry';
import { isSameSnag, type Mending, type Snag, type SnagContext } from '../snags/snag';
import type { TakeEvaluator } from './evaluate/take-evaluator';
import { PassRecord } from './kinds/pass-record';
import { PlantRecord } from './kinds/plant-record';
import { recordsInUse, recordsOf, type EditRecord } from './registry';
import { withoutRecords, type TakeEdits } from './take-edits';

/** What is known of a take beside its motion and its plants. */
type Known = Pick<SnagContext, 'bridged' | 'unseen' | 'contacts'>;

/** A mending that was tried on a copy and found good. */
export interface TriedMend {
  /** What is laid over the take. */
  records: EditRecord[];
  edits: TakeEdits;
  motion: Motion;
  /** What is left of all snags with it. */
  snags: Snag[];
}

/** A snag must fall by this part of its graveness at least. */
const LEAST_GAIN = 0.5;
/** What another snag may grow by meanwhile, as a part of its graveness. */
const UNCHANGED = 0.1;

/** The edits without key poses: poses that are held look like faults, and are none. */
export const withoutKeyPoses = (edits: TakeEdits): TakeEdits =>
  edits.records.some(({ kind }) => kind === 'key-poses')
    ? withoutRecords(edits, ({ kind }) => kind === 'key-poses')
    : edits;

/** The snags of a take with its edits, worst first, before it is brought to key poses: without those that a person dismissed, and gaps that are filled. */
export function openSnags(
  evaluator: TakeEvaluator,
  edits: TakeEdits,
  { bridged, unseen, contacts }: Known,
): { motion: Motion; snags: Snag[] } {
  const motion = evaluator.untimed(withoutKeyPoses(edits));
  const plants = plantsWithin(evaluator.plants(edits), motion.frames);
  const tethers = recordsInUse(edits.records, 'tether');
  const dismissed = recordsOf(edits.records, 'dismissed');
  const filled = recordsInUse(edits.records, 'pass').filter(({ pass }) => pass === 'fill-gaps');
  const snags = findSnags({ motion, plants, tethers, bridged, unseen, contacts }).filter(
    (snag) =>
      !dismissed.some((one) => isSameSnag({ ...one, kind: one.snag }, snag)) &&
      !(snag.kind === 'gap' && filled.some(({ range }) => range === null || covers(range, snag))),
  );
  return { motion, snags };
}

/**
 * Tries what may mend a snag on a copy, one after the other, counts all snags again, and gives the first with which this one is gone or much less, all together are less
 * grave, and none is new or worse; null where none is.
 * @param before the snags as they are. @param newId gives ids for records.
 */
export function tryMend(
  evaluator: TakeEvaluator,
  edits: TakeEdits,
  known: Known,
  snag: Snag,
  before: readonly Snag[],
  newId: () => string,
): TriedMend | null {
  for (const mending of snag.mends) {
    const records = recordsFor(mending, newId);
    const next = { ...edits, records: [...edits.records, ...records] };
    const { motion, snags } = openSnags(evaluator, next, known);
    if (isBetter(snag, before, snags)) return { records, edits: next, motion, snags };
  }
  return null;
}

/** Mends snags, worst first, as long as something is found that makes it better. @param told after each, how many were looked at and mended. */
export function mendAll(
  evaluator: TakeEvaluator,
  edits: TakeEdits,
  known: Known,
  newId: () => string,
  wanted: (snag: Snag) => boolean = () => true,
): { edits: TakeEdits; mended: number; snags: Snag[] } {
  let { snags } = openSnags(evaluator, edits, known);
  let [now, mended] = [edits, 0];
  const tried = new Set<string>();
  for (;;) {
    const next = snags.find((snag) => wanted(snag) && !tried.has(nameOf(snag)));
    if (!next) return { edits: now, mended, snags };
    tried.add(nameOf(next));
    const better = tryMend(evaluator, now, known, next, snags, newId);
    if (!better) continue;
    [now, snags, mended] = [better.edits, better.snags, mended + 1];
  }
}

/** The records that a mending is. */
export const recordsFor = (mending: Mending, newId: () => string): EditRecord[] =>
  'pass' in mending
    ? [PassRecord.parse({ ...mending.pass, kind: 'pass', id: newId() })]
    : mending.plants.map((plant) => PlantRecord.parse({ ...plant, kind: 'plant', id: newId() }));

/** Whether a motion with some snags left is better than before: the one that was mended fell, and nothing came up or grew. */
export function isBetter(mended: Snag, before: readonly Snag[], after: readonly Snag[]): boolean {
  const total = (snags: readonly Snag[]): number => snags.reduce((sum, snag) => sum + graveness(snag), 0);
  const left = total(after.filter((snag) => isSameSnag(snag, mended)));
  if (left > (1 - LEAST_GAIN) * graveness(mended) || total(after) >= total(before)) return false;
  return after.every((snag) => {
    const were = before.filter((one) => isSameSnag(one, snag));
    return were.length > 0 && graveness(snag) <= (1 + UNCHANGED) * Math.max(...were.map(graveness));
  });
}

const covers = ([from, until]: Run, snag: Snag): boolean => from <= snag.from && until >= snag.until;
const nameOf = ({ kind, joint, from }: Snag): string => `${kind} ${joint} ${from}`;
