import { nanoid } from 'nanoid';
import type { vec3 } from 'gl-matrix';
import { DepthHintRecord } from '@merry-shadow/core/edits/kinds/told-record';
import { withoutRecords, withRecord, type TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { dragPose } from '@merry-shadow/core/posing/drag-pose';
import { placeIn } from '@merry-shadow/core/posing/handles';
import { emptyPose, poseAt, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { MarkName } from '@merry-shadow/core/observe/body';
import {
  HINTED_JOINTS,
  HINTED_MARKS,
  type DepthHint,
  type HintedMark,
} from '@merry-shadow/core/solve/hints/depth-hints';

/** A depth that a person tells, of the shown frame. */
export type ToldDepth = Pick<DepthHint, 'mark' | 'nearer'>;

const SHOULDERS: readonly HintedMark[] = ['leftShoulder', 'rightShoulder'];

/** The marks whose depth is told where a handle is dragged nearer or farther: the head brings both shoulders along, by which the trunk leans. Nothing for other handles. */
export const marksOf = (handle: string): readonly HintedMark[] =>
  handle === 'head' ? SHOULDERS : HINTED_MARKS.filter((mark) => HINTED_JOINTS[mark] === handle);

/** The joint that follows a mark that is moved on the picture, the end or the middle of a limb; null for other marks. */
export function limbJointOf(mark: MarkName): string | null {
  const limb = HINTED_MARKS.find((name) => name === mark && !SHOULDERS.includes(name));
  return limb ? HINTED_JOINTS[limb] : null;
}

/** How a frame stands when a handle is dragged nearer or farther: a limb by itself, the head by a trunk that leans. @param motion of one frame. */
export function draggedAway(motion: Motion, handle: string, place: vec3): Motion {
  if (handle !== 'head') return dragPose(motion, handle, place);
  const pose = poseAt(motion, 0, emptyPose(motion.skeleton));
  const [head, chest, hips] = [handle, TRUNK, 'hips'].map((name) => placeIn(pose, jointIndex(motion.skeleton, name)));
  const height = (at: readonly number[]): number => Math.hypot(...at.map((value, k) => value - hips[k]));
  const share = height(chest) / Math.max(1e-6, height(head));
  return dragPose(motion, TRUNK, [0, 1, 2].map((k) => chest[k] + share * (place[k] - head[k])) as vec3);
}
const TRUNK = 'upperChest';

/** How much nearer to the camera a joint is than the middle of the hips, metres. @param axis from the scene to the camera, of length one. */
export function nearerThanHips(motion: Motion, joint: string, axis: vec3): number {
  const { positions } = poseAt(motion, 0, emptyPose(motion.skeleton));
  const along = (name: string): number => {
    const at = jointIndex(motion.skeleton, name) * 3;
    return [0, 1, 2].reduce((sum, k) => sum + positions[at + k] * axis[k], 0);
  };
  return along(joint) - (along('leftUpperLeg') + along('rightUpperLeg')) / 2;
}

/** The edits with depths told in a frame, in the place of what was told there of the same marks. */
export const withDepths = (edits: TakeEdits, told: readonly ToldDepth[], frame: number): TakeEdits =>
  told.reduce((before, one) => withDepth(before, one, frame), edits);

function withDepth(edits: TakeEdits, { mark, nearer }: ToldDepth, frame: number): TakeEdits {
  const others = withoutRecords(
    edits,
    (record) => record.kind === 'depth-hint' && record.mark === mark && record.frame === frame,
  );
  return withRecord(others, DepthHintRecord.parse({ kind: 'depth-hint', id: nanoid(10), mark, frame, nearer }));
}
