import { z } from 'zod';
import { holdTether, Tether, tetherFrames } from '../../posing/tether';
import { handleOf } from '../../posing/handles';
import { perFrameStep } from '../step';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A hand, a foot or the hips held to a place or to another joint. Tethers come after all layers, in the order of the document. */
export const TetherRecord = Tether.extend({ ...base, kind: z.literal('tether') });
export type TetherRecord = z.infer<typeof TetherRecord>;

export const tetherKind = {
  kind: 'tether',
  schema: TetherRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ joint, from }) => `the tether of the ${handleOf(joint).title} at frame ${from}`,
  stage: 3,
  step: (record, { frames }) =>
    perFrameStep(record, tetherFrames(record, [0, frames]), (input, at) => holdTether(input, record, at)),
} as const satisfies RecordKind<TetherRecord>;
