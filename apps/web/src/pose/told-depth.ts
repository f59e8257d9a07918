import { nanoid } from 'nanoid';
import type { vec3 } from 'gl-matrix';
import { DepthHintRecord } from '@merry-shadow/core/edits/kinds/told-record';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { MarkName } from '@merry-shadow/core/observe/body';
import { HINTED_MARKS, type DepthHint } from '@merry-shadow/core/solve/hints/depth-hints';

/** A depth that a person tells, of the shown frame. */
export type ToldDepth = Pick<DepthHint, 'mark' | 'nearer'>;

/** The mark at a joint whose depth can be told; null for other joints. */
export function markOf(joint: string): DepthHint['mark'] | null {
  const mark = joint
    .replace('LowerArm', 'Elbow')
    .replace('LowerLeg', 'Knee')
    .replace('Hand', 'Wrist')
    .replace('Foot', 'Ankle');
  return HINTED_MARKS.find((name) => name === mark) ?? null;
}

/** The joint at a mark whose depth can be told; null for other marks. */
export const jointOf = (mark: MarkName): string | null =>
  (HINTED_MARKS as readonly MarkName[]).includes(mark)
    ? mark.replace('Elbow', 'LowerArm').replace('Knee', 'LowerLeg').replace('Wrist', 'Hand').replace('Ankle', 'Foot')
    : null;

/** How much nearer to the camera a joint is than the middle of the hips, metres. @param axis from the scene to the camera, of length one. */
export function nearerThanHips(motion: Motion, joint: string, axis: vec3): number {
  const { positions } = poseAt(motion, 0, emptyPose(motion.skeleton));
  const along = (name: string): number => {
    const at = jointIndex(motion.skeleton, name) * 3;
    return [0, 1, 2].reduce((sum, k) => sum + positions[at + k] * axis[k], 0);
  };
  return along(joint) - (along('leftUpperLeg') + along('rightUpperLeg')) / 2;
}

/** The edits with a depth told in a frame, in the place of what was told there of the same mark. */
export function withDepth(edits: TakeEdits, { mark, nearer }: ToldDepth, frame: number): TakeEdits {
  const others = withoutRecords(
    edits,
    (record) => record.kind === 'depth-hint' && record.mark === mark && record.frame === frame,
  );
  return withRecord(others, DepthHintRecord.parse({ kind: 'depth-hint', id: nanoid(10), mark, frame, nearer }));
}
