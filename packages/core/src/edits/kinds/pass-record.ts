import { z } from 'zod';
import { passNamed } from '../../passes/registry';
import { framesOf, PassStep, runPass } from '../../passes/run-passes';
import { joinRuns, sharedRun, widenRun, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { Step, SteppedTake } from '../step';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A pass of the clean-up list. They run in the order of the document. */
export const PassRecord = PassStep.extend({ ...base, kind: z.literal('pass') });
export type PassRecord = z.infer<typeof PassRecord>;

export const passKind = {
  kind: 'pass',
  schema: PassRecord,
  span: ({ range }) => range,
  shift: (record, by) => ({ ...record, range: record.range && [record.range[0] + by, record.range[1] + by] }),
  words: ({ pass }) => `the pass "${passNamed(pass).title}"`,
  step: passStep,
} as const satisfies RecordKind<PassRecord>;

/** A pass that does not tell its reach looks at the whole take and may change all of it. */
function passStep(record: PassRecord, { frames, rate, bridged }: SteppedTake): Step {
  const pass = passNamed(record.pass);
  const reach = pass.reach?.(pass.options.parse(record.options), rate) ?? Infinity;
  const whole: Run = [0, frames];
  const around = (run: Run): Run => (reach === Infinity ? whole : (sharedRun(widenRun(run, reach), whole) ?? whole));
  const own = framesOf(record, frames);
  return {
    id: record.id,
    key: JSON.stringify(record),
    frames: own,
    needs: around,
    affects: around,
    changedFrom: (before) => joinRuns(own, before.frames),
    run: (input, at, wanted) => {
      const context = { bridged: bridged && bridged.subarray(at, at + input.frames) };
      return sliceMotion(runPass(input, record, context, at), wanted[0] - at, wanted[1] - at);
    },
  };
}
