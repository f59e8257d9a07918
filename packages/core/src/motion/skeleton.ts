import { multiply, rotate } from './flat-turns';

/**
 * A skeleton: joints in depth-first order, each hanging on an earlier one.
 *
 * In the rest pose of our own bodies every joint's axes are parallel to the world's (+Y up, the character
 * faces +Z, its left is +X), so it is told by offsets alone. Characters from elsewhere have joints that are turned at rest. Metres.
 */
export interface Joint {
  readonly name: string;
  /** Index of the parent joint; -1 for the root. Always smaller than the joint's own index. */
  readonly parent: number;
  /** Where the joint lies in its parent's axes, metres. */
  readonly offset: readonly [number, number, number];
  /** How it is turned against its parent in the rest pose, (x, y, z, w); not at all if left out. */
  readonly rest?: readonly [number, number, number, number];
  /** For a joint without children: where its bone ends, metres from the joint. */
  readonly tip?: readonly [number, number, number];
}

export interface Skeleton {
  readonly joints: readonly Joint[];
}

/** Joints by name, told once for each list of joints. */
const INDICES = new WeakMap<readonly Joint[], Map<string, number>>();

/** The index of a joint by name, or -1. */
export function jointIndex({ joints }: Skeleton, name: string): number {
  let indices = INDICES.get(joints);
  if (indices?.size !== joints.length) {
    indices = new Map(joints.map((joint, index) => [joint.name, index]));
    INDICES.set(joints, indices);
  }
  return indices.get(name) ?? -1;
}

/** The given joints and all they hang on, parents first. */
export function chainOf({ joints }: Skeleton, wanted: readonly number[]): Int32Array {
  const all = new Set<number>();
  for (const start of wanted) for (let j = start; j >= 0; j = joints[j].parent) all.add(j);
  return Int32Array.from(all).sort();
}

/** World places and turns of all joints in the rest pose with the root at its offset: joints × 3, metres, and joints × 4. */
export function restPose({ joints }: Skeleton): { positions: Float64Array; rotations: Float64Array } {
  const positions = new Float64Array(joints.length * 3);
  const rotations = new Float64Array(joints.length * 4);
  joints.forEach(({ parent, offset, rest = STRAIGHT }, i) => {
    if (parent < 0) {
      positions.set(offset, 0);
      rotations.set(rest, 0);
      return;
    }
    rotate(rotations, parent * 4, offset[0], offset[1], offset[2], positions, i * 3);
    for (let k = 0; k < 3; k++) positions[i * 3 + k] += positions[parent * 3 + k];
    multiply(rotations, parent * 4, rest, 0, rotations, i * 4);
  });
  return { positions, rotations };
}

const STRAIGHT = [0, 0, 0, 1] as const;

/**
 * World positions of all joints in the rest pose with the root at its offset.
 * @returns Float64Array of joints × 3, metres.
 */
export const restPositions = (skeleton: Skeleton): Float64Array => restPose(skeleton).positions;

/**
 * Checks that a skeleton is well formed.
 * @throws Error naming the joint at fault when it has no joints, a parent that comes later,
 *   more than one root, or a name that is used twice.
 */
export function checkSkeleton(skeleton: Skeleton): void {
  if (skeleton.joints.length === 0) throw new Error('A skeleton needs at least one joint.');
  const names = new Set<string>();
  skeleton.joints.forEach((joint, index) => {
    if (names.has(joint.name)) throw new Error(`Two joints are called "${joint.name}".`);
    names.add(joint.name);
    if (index === 0 ? joint.parent !== -1 : joint.parent < 0 || joint.parent >= index) {
      throw new Error(`Joint "${joint.name}" must hang on a joint that comes before it.`);
    }
  });
}
