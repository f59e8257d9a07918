import { quat, vec3 } from 'gl-matrix';
import type { Side } from '../motion/humanoid';
import { HAND_MARK_COUNT } from '../observe/hands';
import { readHand, type HandReading } from './read-hand';

/**
 * What finger angles are told from: the points in the hand's own axes in lengths of the palm, how the hand lies against the view, and the angles
 * as read. A right hand is given as the left one that it mirrors.
 */
export function handFeatures(
  world: ArrayLike<number>,
  at: number,
  side: Side,
  { turn, angles }: HandReading = readHand(world, at, side),
): number[] {
  const s = side === 'left' ? 1 : -1;
  const back = quat.conjugate([0, 0, 0, 1], turn);
  const fromWrist = (mark: number): vec3 => [0, 1, 2].map((k) => world[at + mark * 3 + k] - world[at + k]) as vec3;
  const palm = [5, 9, 13, 17].reduce((sum, mark) => sum + vec3.length(fromWrist(mark)) / 4, 0) || 1;
  const features: number[] = [];
  for (let mark = 1; mark < HAND_MARK_COUNT; mark++) {
    const [x, y, z] = vec3.transformQuat([0, 0, 0], fromWrist(mark), back);
    features.push((x * s) / palm, y / palm, z / palm);
  }
  const along = vec3.transformQuat([0, 0, 0], [s, 0, 0], turn);
  const normal = vec3.transformQuat([0, 0, 0], [0, 1, 0], turn);
  features.push(along[0] * s, along[1], along[2], normal[0] * s, normal[1], normal[2]);
  angles.forEach((angle, i) => features.push(angle, ...(i % 4 === 1 || i % 4 === 2 ? [Math.abs(angle)] : [])));
  return features;
}
