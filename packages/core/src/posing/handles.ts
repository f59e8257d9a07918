import { SIDES } from '../motion/humanoid';
import type { Limb } from '../motion/limb-ik';
import type { Pose } from '../motion/motion';
import { jointIndex, type Skeleton } from '../motion/skeleton';

/** How the body follows where a place on it is dragged to. */
export type HandleKind =
  /** The end of a limb: both its bones follow. */
  | 'end'
  /** An elbow or a knee: the limb turns about the line between its ends. */
  | 'middle'
  /** The trunk or the head bends towards the place, hanging on joints below. */
  | 'bend'
  /** The whole body moves; feet stay. */
  | 'root';

/** A place on the body that a person takes hold of. */
export interface Handle {
  /** The joint that it lies on, and by which it is named. */
  readonly joint: string;
  readonly title: string;
  readonly kind: HandleKind;
  /** Of a limb: upper, lower and end joint. Of a bend: the joints that turn, from the root outwards. */
  readonly joints: readonly string[];
  /** The joint that is turned by hand, where that is another one. */
  readonly turns?: string;
}

const limbs = SIDES.flatMap((side): Handle[] => {
  const arm = [`${side}UpperArm`, `${side}LowerArm`, `${side}Hand`];
  const leg = [`${side}UpperLeg`, `${side}LowerLeg`, `${side}Foot`];
  return [
    { joint: arm[2], title: `${side} hand`, kind: 'end', joints: arm },
    { joint: arm[1], title: `${side} elbow`, kind: 'middle', joints: arm },
    { joint: leg[2], title: `${side} foot`, kind: 'end', joints: leg },
    { joint: leg[1], title: `${side} knee`, kind: 'middle', joints: leg },
    { joint: arm[0], title: `${side} shoulder`, kind: 'bend', joints: [`${side}Shoulder`] },
  ];
});

/** All places that can be dragged, in the order in which they are listed. */
export const HANDLES: readonly Handle[] = [
  { joint: 'hips', title: 'hips', kind: 'root', joints: ['hips'] },
  { joint: 'upperChest', title: 'chest', kind: 'bend', joints: ['spine', 'chest'], turns: 'chest' },
  { joint: 'head', title: 'head', kind: 'bend', joints: ['neck'] },
  ...limbs,
];

/** The handles that a skeleton has the joints for. */
export const handlesOf = (skeleton: Skeleton): Handle[] =>
  HANDLES.filter(({ joint, joints }) => [joint, ...joints].every((name) => jointIndex(skeleton, name) >= 0));

/** @throws Error when there is no such handle. */
export function handleOf(joint: string): Handle {
  const handle = HANDLES.find((one) => one.joint === joint);
  if (!handle) throw new Error(`There is no handle at "${joint}".`);
  return handle;
}

/** The limb that a handle belongs to, as indices of joints. */
export function limbOf(skeleton: Skeleton, { joints }: Handle): Limb {
  const [upper, lower, end] = joints.map((name) => jointIndex(skeleton, name));
  return { upper, lower, end };
}

/** Where a joint is in a pose, metres. */
export const placeIn = ({ positions }: Pose, joint: number): [number, number, number] => [
  positions[joint * 3],
  positions[joint * 3 + 1],
  positions[joint * 3 + 2],
];
