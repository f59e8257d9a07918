import { z } from 'zod';
import { PART_WORDS, Plant, PLANTED_PARTS } from '../../ground/plants';
import { base } from './base';
import type { RecordKind } from './record-kind';

/**
 * What a person did to a plant that was found: moved an end, held it elsewhere, or took it away. It stands for the found plant of the same part
 * that overlaps its span most, so that it holds over a better solve; what was not touched follows what is found.
 */
export const FoundPlantRecord = z.object({
  ...base,
  kind: z.literal('found-plant'),
  part: z.enum(PLANTED_PARTS),
  /** Where the plant was found when it was changed first. */
  from: z.number().int(),
  until: z.number().int(),
  /** What is different now; null takes the plant away. */
  change: Plant.pick({ from: true, until: true, ease: true, place: true })
    .extend({ ease: z.number().int().min(0).max(60) })
    .partial()
    .nullable(),
});
export type FoundPlantRecord = z.infer<typeof FoundPlantRecord>;

export const foundPlantKind = {
  kind: 'found-plant',
  schema: FoundPlantRecord,
  span: ({ from, until, change }) => [change?.from ?? from, change?.until ?? until],
  shift: (record, by) => {
    const { change } = record;
    const moved = { ...record, from: record.from + by, until: record.until + by };
    if (!change) return moved;
    const ends = {
      ...(change.from !== undefined && { from: change.from + by }),
      ...(change.until !== undefined && { until: change.until + by }),
    };
    return { ...moved, change: { ...change, ...ends } };
  },
  words: ({ part, from }) => `the found plant of the ${PART_WORDS[part]} at frame ${from}`,
} as const satisfies RecordKind<FoundPlantRecord>;
