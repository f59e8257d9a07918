import { z } from 'zod';
import { nameWords } from '../../motion/name-words';
import { DepthHint } from '../../solve/hints/depth-hints';
import { SwappedSides } from '../../solve/hints/swapped-sides';
import { HiddenMark, MovedMark } from '../../solve/hints/told-marks';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A mark that a person moved in the picture; it goes into the solve. */
export const MovedMarkRecord = MovedMark.extend({ ...base, kind: z.literal('moved-mark') });
export type MovedMarkRecord = z.infer<typeof MovedMarkRecord>;
export const movedMarkKind = {
  kind: 'moved-mark',
  schema: MovedMarkRecord,
  span: ({ frame }) => [frame, frame + 1],
  shift: (record, by) => ({ ...record, frame: record.frame + by }),
  words: ({ mark, frame }) => `the moved mark of the ${nameWords(mark)} at frame ${frame}`,
} as const satisfies RecordKind<MovedMarkRecord>;

/** A mark that a person says is not to be seen; it goes into the solve. */
export const HiddenMarkRecord = HiddenMark.extend({ ...base, kind: z.literal('hidden-mark') });
export type HiddenMarkRecord = z.infer<typeof HiddenMarkRecord>;
export const hiddenMarkKind = {
  kind: 'hidden-mark',
  schema: HiddenMarkRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ mark, from }) => `the hidden mark of the ${nameWords(mark)} at frame ${from}`,
} as const satisfies RecordKind<HiddenMarkRecord>;

/** A depth that a person tells; it goes into the solve. */
export const DepthHintRecord = DepthHint.extend({ ...base, kind: z.literal('depth-hint') });
export type DepthHintRecord = z.infer<typeof DepthHintRecord>;
export const depthHintKind = {
  kind: 'depth-hint',
  schema: DepthHintRecord,
  span: ({ frame }) => [frame, frame + 1],
  shift: (record, by) => ({ ...record, frame: record.frame + by }),
  words: ({ mark, frame }) => `the depth of the ${nameWords(mark)} at frame ${frame}`,
} as const satisfies RecordKind<DepthHintRecord>;

/** Left and right that the network took for each other, as a person says; it goes into the solve. */
export const SwappedSidesRecord = SwappedSides.extend({ ...base, kind: z.literal('swapped-sides') });
export type SwappedSidesRecord = z.infer<typeof SwappedSidesRecord>;
export const swappedSidesKind = {
  kind: 'swapped-sides',
  schema: SwappedSidesRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ what, from }) => `left and right of the ${what} swapped from frame ${from}`,
} as const satisfies RecordKind<SwappedSidesRecord>;

/** Kinds of records that are told to the solve. */
export const TOLD_KINDS = ['moved-mark', 'hidden-mark', 'depth-hint', 'swapped-sides'] as const;
