import { z } from 'zod';
import { courseReach } from '../../between/likeliest-course';
import { regenerate } from '../../between/regenerate';
import { BODY_PARTS } from '../../motion/body-parts';
import { joinRuns, sharedRun, widenRun, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { Step, SteppedTake } from '../step';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** A range that is thrown away and made anew from what is on both sides of it. */
export const BetweenRecord = z.object({
  ...base,
  kind: z.literal('between'),
  /** Frames from … until − 1. */
  from: z.number().int(),
  until: z.number().int(),
  /** null is the whole body. */
  parts: z.array(z.enum(BODY_PARTS)).nullable().default(null),
});
export type BetweenRecord = z.infer<typeof BetweenRecord>;

export const betweenKind = {
  kind: 'between',
  schema: BetweenRecord,
  span: ({ from, until }) => [from, until],
  shift: (record, by) => ({ ...record, from: record.from + by, until: record.until + by }),
  words: ({ from, until }) => `the range made anew, frames ${from} to ${until - 1}`,
  stage: 1,
  step: betweenStep,
} as const satisfies RecordKind<BetweenRecord>;

/** A range hangs on the frames beside it. */
function betweenStep(record: BetweenRecord, { frames, rate }: SteppedTake): Step {
  const { from, until, parts } = record;
  const whole: Run = [0, frames];
  const own = sharedRun([from, until], whole);
  const around = sharedRun(widenRun([from, until], courseReach(rate) + 1), whole);
  return {
    id: record.id,
    key: JSON.stringify(record),
    frames: own,
    needs: (wanted) => joinRuns(wanted, around) ?? wanted,
    affects: (changed) => (sharedRun(changed, around) ? (joinRuns(changed, own) ?? changed) : changed),
    changedFrom: (before) => joinRuns(own, before.frames),
    run: (input, at, wanted) => {
      if (!own) return sliceMotion(input, wanted[0] - at, wanted[1] - at);
      const chosen = (part: (typeof BODY_PARTS)[number]): boolean => parts === null || parts.includes(part);
      const made = regenerate(input, own[0] - at, own[1] - at, chosen);
      return sliceMotion(made, wanted[0] - at, wanted[1] - at);
    },
  };
}
