import { quat, vec3 } from 'gl-matrix';
import { FINGERS, type Side } from '../motion/humanoid';
import { KNUCKLES, WRIST } from '../observe/hands';
import { turnFromXY } from '../motion/turns-from-axes';
import { FINGER_ANGLES, HAND_ANGLES, SPREAD } from './finger-turns';

/** What the hand network's points say of one hand in one frame, as they stand. */
export interface HandReading {
  /** Turn of the hand in the camera's axes, against a hand at rest in T-pose. */
  turn: quat;
  /** `HAND_ANGLES`, radians. */
  angles: Float64Array;
}

/**
 * Reads turn and finger angles off a hand's points in space.
 * @param world frames × 21 × 3, metres, +X right in the picture, +Y up, +Z to the camera.
 * @param at offset of the frame's first value.
 */
export function readHand(world: ArrayLike<number>, at: number, side: Side): HandReading {
  const s = side === 'left' ? 1 : -1;
  const point = (mark: number): vec3 => [0, 1, 2].map((k) => world[at + mark * 3 + k]) as vec3;
  const between = (a: vec3, b: vec3): vec3 => vec3.subtract([0, 0, 0], b, a);
  const wrist = point(WRIST);
  const knuckles = KNUCKLES.map(point);
  const middle = knuckles.reduce((sum, knuckle) => vec3.scaleAndAdd(sum, sum, knuckle, 1 / 4), [0, 0, 0] as vec3);
  const along = vec3.scale([0, 0, 0], between(wrist, middle), s);
  const across = between(knuckles[3], knuckles[0]);
  const turn = turnFromXY(along, vec3.cross([0, 0, 0], across, along));
  const back = quat.conjugate([0, 0, 0, 1], turn);
  /** A bone in the hand's own axes: away from the wrist, to the back of the hand, to the thumb's side. */
  const bone = (from: number): vec3 => {
    const v = vec3.transformQuat([0, 0, 0], between(point(from), point(from + 1)), back);
    return vec3.normalize(v, [v[0] * s, v[1], v[2]]);
  };
  const angles = new Float64Array(HAND_ANGLES);
  FINGERS.forEach((finger, f) => {
    const first = f * 4 + 1;
    const bones = [0, 1, 2].map((i) => bone(first + i));
    const at = f * FINGER_ANGLES;
    if (finger === 'Thumb') {
      angles[at] = Math.atan2(bones[0][0], bones[0][2]) - THUMB_REST.along;
      angles[at + SPREAD] = Math.asin(clamped(-bones[0][1])) - THUMB_REST.down;
    } else {
      angles[at] = Math.atan2(-bones[0][1], bones[0][0]);
      angles[at + SPREAD] = Math.asin(clamped(-bones[0][2]));
    }
    const axis: vec3 = finger === 'Thumb' ? [0, 1, 0] : [0, 0, -1];
    for (const i of [1, 2]) angles[at + i] = bentBy(bones[i - 1], bones[i], axis);
  });
  return { turn, angles };
}

/** How the thumb's first bone lies at rest: from ahead to along the fingers, and down, radians (see `humanoid.ts`). */
const THUMB_REST = { along: Math.atan2(0.72, 0.67), down: Math.asin(0.18) };

const clamped = (value: number): number => Math.min(1, Math.max(-1, value));

/** The angle between two bones, counted from the first to the second about an axis. */
function bentBy(first: vec3, second: vec3, axis: vec3): number {
  const normal = vec3.cross([0, 0, 0], first, second);
  const angle = Math.atan2(vec3.length(normal), vec3.dot(first, second));
  return vec3.dot(normal, axis) < 0 ? -angle : angle;
}
