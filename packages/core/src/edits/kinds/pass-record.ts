import { z } from 'zod';
import { passNamed } from '../../passes/registry';
import { PassStep } from '../../passes/run-passes';
import { base } from './base';
import { shiftSpan, type RecordKind } from './record-kind';

/** A pass of the clean-up list. They run in the order of the document. */
export const PassRecord = PassStep.extend({ ...base, kind: z.literal('pass') });
export type PassRecord = z.infer<typeof PassRecord>;

export const passKind: RecordKind<PassRecord> = {
  kind: 'pass',
  schema: PassRecord,
  stage: 'clean',
  span: ({ range }) => range,
  shift: (record, by) => ({ ...record, range: shiftSpan(record.range, by) }),
  words: ({ pass }) => `the pass "${passNamed(pass).title}"`,
};
