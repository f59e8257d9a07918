import { z } from 'zod';
import { passNamed } from '../../passes/registry';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A change of the timing: cut off the ends, faster or slower, another frame rate. It comes after all else and knows no range. */
export const TimingRecord = z.object({
  ...base,
  kind: z.literal('timing'),
  pass: z.string(),
  options: z.record(z.string(), z.unknown()).default({}),
});
export type TimingRecord = z.infer<typeof TimingRecord>;

export const timingKind = {
  kind: 'timing',
  schema: TimingRecord,
  span: () => null,
  shift: (record) => record,
  words: ({ pass }) => `the timing "${passNamed(pass).title}"`,
} as const satisfies RecordKind<TimingRecord>;
