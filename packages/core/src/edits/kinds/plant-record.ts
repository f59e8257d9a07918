import { z } from 'zod';
import { PART_WORDS, Plant } from '../../ground/plants';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A plant that a person set. */
export const PlantRecord = Plant.extend({ ...base, kind: z.literal('plant') });
export type PlantRecord = z.infer<typeof PlantRecord>;

export const plantKind = {
  kind: 'plant',
  schema: PlantRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ part, from }) => `the plant of the ${PART_WORDS[part]} at frame ${from}`,
} as const satisfies RecordKind<PlantRecord>;
