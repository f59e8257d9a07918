import type { quat } from 'gl-matrix';
import { bodyPartOf } from '../motion/body-parts';
import { AXES, eulerFromQuaternion, quaternionFromEuler } from '../motion/euler';

/** Turns about three axes, one after the other, degrees: about x, y and z. */
export type AxisTurns = [x: number, y: number, z: number];

/** Which axis turns first, second and third (`motion/euler.ts`); the second one should stay below 90°. Bones of arms lie along x: they go forward about y, up about z, and twist about x. */
const ARM_ORDER = 'YZX';
/** Legs bend about x by more than a right angle, go aside about z, and twist about y. */
const LEG_ORDER = 'XZY';
/** All others turn aside, bend, and lean. */
const SPINE_ORDER = 'YXZ';

/** The order for a joint of the humanoid skeleton. */
export function orderOf(joint: string): string {
  if (/Shoulder$/.test(joint)) return ARM_ORDER;
  const part = bodyPartOf(joint);
  if (/Leg$/.test(part)) return LEG_ORDER;
  return /Arm$|Hand$/.test(part) ? ARM_ORDER : SPINE_ORDER;
}

/** The turn that three turns about axes make. */
export const turnFromAxes = (turns: readonly number[], order: string): quat =>
  quaternionFromEuler(
    [...order].map((axis) => turns[AXES[axis]]),
    order,
  );

/**
 * The turns about three axes that make a turn. Of the two ways and all whole turns more that make the same, the one nearest to others is taken, so that a course of them doesn't jump.
 * @param turn a unit quaternion. @param near what they should lie near to, degrees; axes that are NaN count for nothing.
 */
export function axesOfTurn(turn: ArrayLike<number>, order: string, near: readonly number[]): AxisTurns {
  const [first, middle, last] = eulerFromQuaternion(turn, order);
  const ways = [
    [first, middle, last],
    [first + 180, 180 - middle, last + 180],
  ].map((way) => {
    const out: AxisTurns = [0, 0, 0];
    [...order].forEach((axis, n) => (out[AXES[axis]] = nearest(way[n], near[AXES[axis]])));
    return out;
  });
  const far = (way: AxisTurns): number =>
    way.reduce((sum, angle, axis) => sum + (Number.isFinite(near[axis]) ? Math.abs(angle - near[axis]) : 0), 0);
  return far(ways[1]) < far(ways[0]) - 1e-6 ? ways[1] : ways[0];
}

const nearest = (angle: number, near: number): number =>
  Number.isFinite(near) ? angle + 360 * Math.round((near - angle) / 360) : angle - 360 * Math.round(angle / 360);
