import type { Joint, Skeleton } from './skeleton';

/**
 * The humanoid skeleton with the bone names of the open VRM 1.0 standard
 * (https://github.com/vrm-c/vrm-specification, humanoid.md), in T-pose.
 */
export const FINGERS = ['Thumb', 'Index', 'Middle', 'Ring', 'Little'] as const;
export type Finger = (typeof FINGERS)[number];
export type Side = 'left' | 'right';
export const SIDES: readonly Side[] = ['left', 'right'];

/** The three bones of a finger, from the palm outwards. */
export function fingerBones(finger: Finger): readonly [string, string, string] {
  return finger === 'Thumb' ? ['Metacarpal', 'Proximal', 'Distal'] : ['Proximal', 'Intermediate', 'Distal'];
}

/** Body joints whose places are compared when motions are measured. */
export const LIMB_JOINTS: readonly string[] = SIDES.flatMap((side) =>
  ['UpperArm', 'LowerArm', 'Hand', 'UpperLeg', 'LowerLeg', 'Foot'].map((part) => side + part),
);

/** Lengths and widths of a body in metres; left and right are equal. */
export interface Proportions {
  /** Whole height, crown to floor. */
  height: number;
  /** Hip joint to the middle. */
  hipHalf: number;
  /** How far the hip joints lie below the hips joint. */
  hipDrop: number;
  thigh: number;
  shin: number;
  /** Ankle above the sole. */
  ankle: number;
  /** Ankle to ball of the foot, forwards. */
  foot: number;
  /** Ball of the foot to the tip of the toes. */
  toe: number;
  /** Hips joint to the height of the shoulder joints. */
  torso: number;
  /** Shoulder joint to the middle. */
  shoulderHalf: number;
  upperArm: number;
  foreArm: number;
  /** Wrist to the root of the middle finger. */
  palm: number;
  /** Base of the neck to the head joint. */
  neck: number;
  /** Head joint to crown. */
  head: number;
}

/**
 * Average adult proportions for a height, from the segment tables of Drillis and Contini (1966)
 * as printed by Winter, *Biomechanics and Motor Control of Human Movement*, fig. 4.1.
 * @param height metres, crown to floor.
 */
export function averageProportions(height: number): Proportions {
  return {
    height,
    hipHalf: 0.052 * height,
    hipDrop: 0.02 * height,
    thigh: 0.24 * height,
    shin: 0.244 * height,
    ankle: 0.044 * height,
    foot: 0.085 * height,
    toe: 0.04 * height,
    torso: 0.27 * height,
    shoulderHalf: 0.104 * height,
    upperArm: 0.172 * height,
    foreArm: 0.146 * height,
    palm: 0.054 * height,
    neck: 0.055 * height,
    head: 0.105 * height,
  };
}

/** Height of the hips joint above the floor when standing in the rest pose, metres. */
export function standingHipHeight(p: Proportions): number {
  return p.ankle + p.shin + p.thigh + p.hipDrop;
}

type Vec = readonly [number, number, number];

/** Finger roots and bone lengths as parts of the palm length; x away from the body, z to the thumb's side. */
const FINGER_SHAPE: Record<Finger, { root: Vec; lengths: Vec; spread: Vec }> = {
  Thumb: { root: [0.25, -0.08, 0.3], lengths: [0.46, 0.36, 0.28], spread: [0.72, -0.18, 0.67] },
  Index: { root: [1.0, 0, 0.26], lengths: [0.46, 0.28, 0.22], spread: [1, 0, 0.08] },
  Middle: { root: [1.02, 0.02, 0.04], lengths: [0.52, 0.31, 0.23], spread: [1, 0, 0] },
  Ring: { root: [0.96, 0.01, -0.17], lengths: [0.48, 0.3, 0.23], spread: [1, 0, -0.06] },
  Little: { root: [0.87, -0.02, -0.36], lengths: [0.38, 0.22, 0.2], spread: [1, 0, -0.14] },
};

/**
 * Builds the T-pose skeleton of a body. The hips joint lies at the standing height.
 * @param fingers adds the thirty finger bones; without them the hand is a leaf with a tip.
 */
export function humanoidSkeleton(p: Proportions, fingers = false): Skeleton {
  const joints: Joint[] = [];
  const add = (name: string, parent: string | null, offset: Vec, tip?: Vec): void => {
    const parentIndex = parent === null ? -1 : joints.findIndex((joint) => joint.name === parent);
    joints.push({ name, parent: parentIndex, offset, ...(tip ? { tip } : {}) });
  };
  add('hips', null, [0, standingHipHeight(p), 0]);
  add('spine', 'hips', [0, 0.22 * p.torso, 0]);
  add('chest', 'spine', [0, 0.28 * p.torso, 0]);
  add('upperChest', 'chest', [0, 0.26 * p.torso, 0]);
  add('neck', 'upperChest', [0, 0.32 * p.torso, 0]);
  add('head', 'neck', [0, p.neck, 0.006 * p.height], [0, p.head, 0]);
  for (const side of SIDES) {
    const s = side === 'left' ? 1 : -1;
    const out = (length: number): Vec => [s * length, 0, 0];
    add(`${side}Shoulder`, 'upperChest', [s * 0.2 * p.shoulderHalf, 0.24 * p.torso, 0]);
    add(`${side}UpperArm`, `${side}Shoulder`, out(0.8 * p.shoulderHalf));
    add(`${side}LowerArm`, `${side}UpperArm`, out(p.upperArm));
    add(`${side}Hand`, `${side}LowerArm`, out(p.foreArm), fingers ? undefined : out(1.8 * p.palm));
    if (!fingers) continue;
    for (const finger of FINGERS) {
      const shape = FINGER_SHAPE[finger];
      const norm = Math.hypot(...shape.spread);
      const along = (part: number): Vec =>
        [s, 1, 1].map((sign, axis) => (sign * shape.spread[axis] * part * p.palm) / norm) as unknown as Vec;
      const root = [s, 1, 1].map((sign, axis) => sign * shape.root[axis] * p.palm) as unknown as Vec;
      const [first, second, third] = fingerBones(finger).map((bone) => side + finger + bone);
      add(first, `${side}Hand`, root);
      add(second, first, along(shape.lengths[0]));
      add(third, second, along(shape.lengths[1]), along(shape.lengths[2]));
    }
  }
  for (const side of SIDES) {
    const s = side === 'left' ? 1 : -1;
    add(`${side}UpperLeg`, 'hips', [s * p.hipHalf, -p.hipDrop, 0]);
    add(`${side}LowerLeg`, `${side}UpperLeg`, [0, -p.thigh, 0]);
    add(`${side}Foot`, `${side}LowerLeg`, [0, -p.shin, 0]);
    add(`${side}Toes`, `${side}Foot`, [0, -0.75 * p.ankle, p.foot], [0, -0.25 * p.ankle, p.toe]);
  }
  return { joints };
}

/** Whether a skeleton's hands have fingers. */
export const hasFingers = ({ joints }: Skeleton): boolean => joints.some(({ name }) => name === 'leftIndexProximal');

/** The name of the same bone on the other side; middle bones keep their name. */
export function mirrorName(name: string): string {
  if (name.startsWith('left')) return `right${name.slice(4)}`;
  if (name.startsWith('right')) return `left${name.slice(5)}`;
  return name;
}
