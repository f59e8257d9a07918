import { z } from 'zod';
import { fromFirstEdits } from './first-edits';
import { EditRecord, kindOf } from './registry';

/** The newest form of the document. */
const VERSION = 2;

/** The document as it is now. */
export const EditsDocument = z.strictObject({
  version: z.literal(VERSION).default(VERSION),
  /** Whether feet and hands are held where the capture found them at rest. */
  foundPlants: z.boolean().default(true),
  records: z.array(EditRecord).max(20_000).default([]),
});

/**
 * What a person has laid over a take: a document of records, stored with it. Spans are frames of the prepared clip and are never cut here: what
 * lies outside the take comes back when its range does. Documents of older versions are read, too.
 */
export const TakeEdits = z.preprocess(fromFirstEdits, EditsDocument);
export type TakeEdits = z.infer<typeof EditsDocument>;
export const NO_EDITS: TakeEdits = { version: VERSION, foundPlants: true, records: [] };

/** The same edits counted from another first frame. */
export const shiftEdits = (edits: TakeEdits, by: number): TakeEdits =>
  by === 0 ? edits : { ...edits, records: edits.records.map((record) => kindOf(record).shift(record, by)) };

/** The edits with a record in the place of the one with its id, or behind all others. */
export function withRecord(edits: TakeEdits, record: EditRecord): TakeEdits {
  const there = edits.records.some(({ id }) => id === record.id);
  const records = there
    ? edits.records.map((one) => (one.id === record.id ? record : one))
    : [...edits.records, record];
  return { ...edits, records };
}

/** The edits without the records that are named. */
export const withoutRecords = (edits: TakeEdits, named: (record: EditRecord) => boolean): TakeEdits => ({
  ...edits,
  records: edits.records.filter((record) => !named(record)),
});
