import { quat } from 'gl-matrix';
import { readRotation, type Motion } from '../../motion/motion';
import { withStraightRest } from '../../motion/straight-rest';
import type { Skeleton } from '../../motion/skeleton';
import { eulerFromQuaternion } from '../../motion/euler';

/** What a BVH file of ours is like. */
export interface BvhOptions {
  /** Units in one metre: 1 writes metres, 100 centimetres. */
  unitsPerMetre?: number;
}

const number = (value: number): string => {
  const text = value.toFixed(6);
  return text === '-0.000000' ? '0.000000' : text;
};

/**
 * Writes a motion as BVH: the rest pose is the T-pose, the root carries the path, every joint turns
 * in the order Z X Y (degrees). Angles run on without jumps of 360°. The root's own offset is zero,
 * because some readers add it to the path and some don't. Joints that are turned at rest are told without that turn, which BVH does not know.
 */
export function writeBvh(wanted: Motion, options: BvhOptions = {}): string {
  const motion = withStraightRest(wanted);
  const units = options.unitsPerMetre ?? 100;
  const { skeleton } = motion;
  const order = depthFirst(skeleton);
  const lines = ['HIERARCHY', ...hierarchy(skeleton, 0, '', units)];
  lines.push('MOTION', `Frames: ${motion.frames}`, `Frame Time: ${(1 / motion.rate).toFixed(8)}`);
  const angles = order.map((joint) => continuousAngles(motion, joint));
  for (let frame = 0; frame < motion.frames; frame++) {
    const values: string[] = [];
    for (let axis = 0; axis < 3; axis++) values.push(number(motion.root[frame * 3 + axis] * units));
    for (const column of angles) for (let i = 0; i < 3; i++) values.push(number(column[frame * 3 + i]));
    lines.push(values.join(' '));
  }
  return `${lines.join('\n')}\n`;
}

function depthFirst(skeleton: Skeleton): number[] {
  const order: number[] = [];
  const visit = (joint: number): void => {
    order.push(joint);
    skeleton.joints.forEach((other, i) => {
      if (other.parent === joint) visit(i);
    });
  };
  visit(0);
  return order;
}

function hierarchy(skeleton: Skeleton, index: number, indent: string, units: number): string[] {
  const joint = skeleton.joints[index];
  const offset = (v: readonly number[]): string => v.map((value) => number(value * units)).join(' ');
  const inner = `${indent}  `;
  const channels =
    joint.parent < 0
      ? '6 Xposition Yposition Zposition Zrotation Xrotation Yrotation'
      : '3 Zrotation Xrotation Yrotation';
  const lines = [
    `${indent}${joint.parent < 0 ? 'ROOT' : 'JOINT'} ${joint.name}`,
    `${indent}{`,
    `${inner}OFFSET ${offset(joint.parent < 0 ? [0, 0, 0] : joint.offset)}`,
    `${inner}CHANNELS ${channels}`,
  ];
  const children = skeleton.joints.flatMap((other, i) => (other.parent === index ? [i] : []));
  for (const child of children) lines.push(...hierarchy(skeleton, child, inner, units));
  if (children.length === 0)
    lines.push(`${inner}End Site`, `${inner}{`, `${inner}  OFFSET ${offset(joint.tip ?? [0, 0.05, 0])}`, `${inner}}`);
  lines.push(`${indent}}`);
  return lines;
}

/** Angles of one joint, frames × 3 (Z, X, Y degrees), without jumps between frames. */
function continuousAngles(motion: Motion, joint: number): Float64Array {
  const out = new Float64Array(motion.frames * 3);
  const turn = quat.create();
  for (let frame = 0; frame < motion.frames; frame++) {
    const angles = eulerFromQuaternion(readRotation(motion, joint, frame, turn), 'ZXY');
    const flipped = [angles[0] + 180, 180 - angles[1], angles[2] + 180];
    const before = frame > 0 ? out.subarray((frame - 1) * 3, frame * 3) : Float64Array.of(0, 0, 0);
    const near = (set: number[]): number[] =>
      set.map((value, i) => value - 360 * Math.round((value - before[i]) / 360));
    const [a, b] = [near(angles), near(flipped)];
    const far = (set: number[]): number => set.reduce((sum, value, i) => sum + Math.abs(value - before[i]), 0);
    out.set(frame > 0 && far(b) < far(a) ? b : a, frame * 3);
  }
  return out;
}
