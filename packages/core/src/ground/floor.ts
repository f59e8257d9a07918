import { rotate } from '../motion/flat-turns';
import { emptyPose, poseAt, type Motion } from '../motion/motion';
import { chainOf, jointIndex, restPositions } from '../motion/skeleton';

/** Points on the soles that touch the floor: heel and toe of each foot, relative to their joints at rest. */
export interface SolePoint {
  name: 'leftHeel' | 'leftToe' | 'rightHeel' | 'rightToe';
  joint: number;
  offset: [number, number, number];
}

/** The four sole points of a skeleton that stands on the floor in its rest pose. */
export function solePoints(motion: Pick<Motion, 'skeleton'>): SolePoint[] {
  const rest = restPositions(motion.skeleton);
  return (['left', 'right'] as const).flatMap((side): SolePoint[] => {
    const foot = jointIndex(motion.skeleton, `${side}Foot`);
    const toes = jointIndex(motion.skeleton, `${side}Toes`);
    if (foot < 0) return [];
    const ankle = rest[foot * 3 + 1];
    const heel: SolePoint = { name: `${side}Heel`, joint: foot, offset: [0, -ankle, -0.8 * ankle] };
    if (toes < 0) return [heel];
    return [heel, { name: `${side}Toe`, joint: toes, offset: [0, -rest[toes * 3 + 1], 0] }];
  });
}

/**
 * World places of the sole points in every frame.
 * @returns frames × points × 3, metres.
 */
export function soleTrack(
  motion: Motion,
  points: readonly Pick<SolePoint, 'joint' | 'offset'>[] = solePoints(motion),
): Float64Array {
  const out = new Float64Array(motion.frames * points.length * 3);
  const pose = emptyPose(motion.skeleton);
  const chain = chainOf(
    motion.skeleton,
    points.map(({ joint }) => joint),
  );
  for (let frame = 0; frame < motion.frames; frame++) {
    poseAt(motion, frame, pose, chain);
    for (let i = 0; i < points.length; i++) {
      const { joint, offset } = points[i];
      const at = (frame * points.length + i) * 3;
      rotate(pose.rotations, joint * 4, offset[0], offset[1], offset[2], out, at);
      for (let axis = 0; axis < 3; axis++) out[at + axis] += pose.positions[joint * 3 + axis];
    }
  }
  return out;
}

/** Height of the lowest sole point in every frame, metres. */
export function lowestSole(motion: Motion): Float64Array {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  return Float64Array.from({ length: motion.frames }, (_, frame) => {
    let low = Infinity;
    for (let i = 0; i < points.length; i++) low = Math.min(low, track[(frame * points.length + i) * 3 + 1]);
    return low;
  });
}
