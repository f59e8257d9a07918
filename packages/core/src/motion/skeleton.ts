/**
 * A skeleton: joints in depth-first order, each hanging on an earlier one.
 *
 * In the rest pose every joint's own axes are parallel to the world's (+Y up, the character
 * faces +Z, its left is +X), so a rest pose is told by offsets alone. Metres.
 */
export interface Joint {
  readonly name: string;
  /** Index of the parent joint; -1 for the root. Always smaller than the joint's own index. */
  readonly parent: number;
  /** Where the joint lies seen from its parent in the rest pose, metres. */
  readonly offset: readonly [number, number, number];
  /** For a joint without children: where its bone ends, metres from the joint. */
  readonly tip?: readonly [number, number, number];
}

export interface Skeleton {
  readonly joints: readonly Joint[];
}

/** The index of a joint by name, or -1. */
export function jointIndex(skeleton: Skeleton, name: string): number {
  return skeleton.joints.findIndex((joint) => joint.name === name);
}

/** The given joints and all they hang on, parents first. */
export function chainOf({ joints }: Skeleton, wanted: readonly number[]): Int32Array {
  const all = new Set<number>();
  for (const start of wanted) for (let j = start; j >= 0; j = joints[j].parent) all.add(j);
  return Int32Array.from(all).sort();
}

/**
 * World positions of all joints in the rest pose with the root at its offset.
 * @returns Float64Array of joints × 3, metres.
 */
export function restPositions(skeleton: Skeleton): Float64Array {
  const out = new Float64Array(skeleton.joints.length * 3);
  skeleton.joints.forEach((joint, index) => {
    for (let axis = 0; axis < 3; axis++) {
      const base = joint.parent < 0 ? 0 : out[joint.parent * 3 + axis];
      out[index * 3 + axis] = base + joint.offset[axis];
    }
  });
  return out;
}

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
