import { quat, vec3 } from 'gl-matrix';
import type { Side } from '../motion/humanoid';
import { HAND_MARK_COUNT, KNUCKLES, WRIST, type HandObservations } from '../observe/hands';
import { readHand, type HandReading } from './read-hand';

/** A hand as the network saw it. */
export type SeenHand = Pick<HandObservations, 'marks' | 'world'>;

/**
 * What finger angles are told from: the points in the hand's own axes in lengths of the palm, how the hand lies against the view, the angles
 * as read, and the marks in the picture. A right hand is given as the left one that it mirrors.
 */
export function handFeatures(
  { marks, world }: SeenHand,
  frame: number,
  side: Side,
  { turn, angles }: HandReading = readHand(world, frame * HAND_MARK_COUNT * 3, side),
): number[] {
  const at = frame * HAND_MARK_COUNT * 3;
  const s = side === 'left' ? 1 : -1;
  const back = quat.conjugate([0, 0, 0, 1], turn);
  const fromWrist = (mark: number): vec3 => [0, 1, 2].map((k) => world[at + mark * 3 + k] - world[at + k]) as vec3;
  const palm = KNUCKLES.reduce((sum, mark) => sum + vec3.length(fromWrist(mark)) / 4, 0) || 1;
  const features: number[] = [];
  for (let mark = 1; mark < HAND_MARK_COUNT; mark++) {
    const [x, y, z] = vec3.transformQuat([0, 0, 0], fromWrist(mark), back);
    features.push((x * s) / palm, y / palm, z / palm);
  }
  const along = vec3.transformQuat([0, 0, 0], [s, 0, 0], turn);
  const normal = vec3.transformQuat([0, 0, 0], [0, 1, 0], turn);
  features.push(along[0] * s, along[1], along[2], normal[0] * s, normal[1], normal[2]);
  angles.forEach((angle, i) => features.push(angle, ...(i % 4 === 1 || i % 4 === 2 ? [Math.abs(angle)] : [])));
  return features.concat(outline(marks, frame * HAND_MARK_COUNT * 2, side));
}

/** The marks but the wrist as they lie in the picture about the wrist: turned until the knuckles lie above it, in units of how far they all are from it (root mean square). */
function outline(marks: ArrayLike<number>, at: number, side: Side): number[] {
  const s = side === 'left' ? 1 : -1;
  const places = Array.from({ length: HAND_MARK_COUNT }, (_, mark): [number, number] => [
    (marks[at + mark * 2] - marks[at + WRIST * 2]) * s,
    marks[at + WRIST * 2 + 1] - marks[at + mark * 2 + 1],
  ]);
  const [x, y] = [0, 1].map((k) => KNUCKLES.reduce((sum, mark) => sum + places[mark][k], 0));
  const upright = Math.hypot(x, y) || 1;
  const size = Math.sqrt(places.reduce((sum, place) => sum + place[0] ** 2 + place[1] ** 2, 0) / HAND_MARK_COUNT) || 1;
  const [c, d] = [y / upright / size, x / upright / size];
  return places.slice(1).flatMap(([px, py]) => [px * c - py * d, px * d + py * c]);
}
