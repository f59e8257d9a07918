import { passNamed } from '../../passes/registry';
import { framesOf, runPass } from '../../passes/run-passes';
import { joinRuns, sharedRun, widenRun, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { PassRecord } from '../kinds/pass-record';
import type { Step } from './step';

/** A pass as a step. One that does not tell its reach looks at the whole take and may change all of it. */
export function passStep(record: PassRecord, frames: number, rate: number, bridged: Uint8Array | null): Step {
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
