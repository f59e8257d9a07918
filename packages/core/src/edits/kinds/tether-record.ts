import { z } from 'zod';
import { Tether } from '../../posing/tether';
import { handleOf } from '../../posing/handles';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A hand, a foot or the hips held to a place or to another joint. All tethers are held together after the layers (`evaluate/tethers-step.ts`). */
export const TetherRecord = Tether.extend({ ...base, kind: z.literal('tether') });
export type TetherRecord = z.infer<typeof TetherRecord>;

export const tetherKind = {
  kind: 'tether',
  schema: TetherRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ joint, from }) => `the tether of the ${handleOf(joint).title} at frame ${from}`,
} as const satisfies RecordKind<TetherRecord>;
