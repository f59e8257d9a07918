import { z } from 'zod';
import { KeyPoses } from '../../key-poses/key-poses';
import { keyPoseFrames, posesAffected, posesNeeded, showKeyPoses } from '../../key-poses/show-key-poses';
import { joinRuns, type Run } from '../../signal/runs';
import { sliceMotion } from '../../signal/slice-motion';
import type { Step, SteppedTake } from '../step';
import { base } from './base';
import type { RecordKind } from './record-kind';

/** The poses that carry the take, and what lies between them. They come after plants, and only changes of the timing after them. */
export const KeyPosesRecord = KeyPoses.extend({ ...base, kind: z.literal('key-poses') });
export type KeyPosesRecord = z.infer<typeof KeyPosesRecord>;

export const keyPosesKind = {
  kind: 'key-poses',
  schema: KeyPosesRecord,
  span: ({ poses }) => (poses.length > 0 ? [poses[0].frame, poses[poses.length - 1].frame + 1] : null),
  shift: (record, by) => ({ ...record, poses: record.poses.map((pose) => ({ ...pose, frame: pose.frame + by })) }),
  words: () => 'the key poses',
  afterPlants: true,
  step: keyPosesStep,
} as const satisfies RecordKind<KeyPosesRecord>;

/** A frame hangs on the poses beside it. */
function keyPosesStep(record: KeyPosesRecord, { frames }: SteppedTake): Step {
  const whole: Run = [0, frames];
  const own = keyPoseFrames(record, whole);
  return {
    id: record.id,
    key: JSON.stringify(record),
    frames: own,
    needs: (wanted) => posesNeeded(record, wanted, frames),
    affects: (changed) => posesAffected(record, changed, frames),
    changedFrom: (before) => joinRuns(own, before.frames),
    run: (input, at, wanted) => sliceMotion(showKeyPoses(input, record, at), wanted[0] - at, wanted[1] - at),
  };
}
