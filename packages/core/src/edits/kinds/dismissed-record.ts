import { z } from 'zod';
import { SNAG_KINDS } from '../../snags/snag';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A snag that a person looked at and left: it is not told again where it was, whatever becomes of the motion around it. */
export const DismissedRecord = z.object({
  ...base,
  kind: z.literal('dismissed'),
  snag: z.enum(SNAG_KINDS),
  joint: z.string().max(80),
  from: z.number().int(),
  until: z.number().int(),
});
export type DismissedRecord = z.infer<typeof DismissedRecord>;

export const dismissedKind = {
  kind: 'dismissed',
  schema: DismissedRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ snag, from }) => `the dismissed ${snag.replaceAll('-', ' ')} at frame ${from}`,
} as const satisfies RecordKind<DismissedRecord>;
