import { restPositions, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Binding } from './part';

/** Weights from the distances to the owner bone and its neighbours only, so that legs and arms never stick together. */
export function boneBinder(skeleton: Skeleton): (owner: number, place: Float32Array) => Binding {
  const rest = restPositions(skeleton);
  const { joints } = skeleton;
  const ends = joints.map((joint, i) => {
    const child = joints.findIndex((other) => other.parent === i);
    const tip = joint.tip ?? [0, 0.05, 0];
    return child >= 0 ? [0, 1, 2].map((k) => rest[child * 3 + k]) : [0, 1, 2].map((k) => rest[i * 3 + k] + tip[k]);
  });
  const distance = (p: Float32Array, bone: number): number => {
    const a = [0, 1, 2].map((k) => rest[bone * 3 + k]);
    const b = ends[bone];
    const ab = [0, 1, 2].map((k) => b[k] - a[k]);
    const ap = [0, 1, 2].map((k) => p[k] - a[k]);
    const dot = ab[0] * ap[0] + ab[1] * ap[1] + ab[2] * ap[2];
    const t = Math.min(1, Math.max(0, dot / (ab[0] ** 2 + ab[1] ** 2 + ab[2] ** 2 || 1)));
    return Math.hypot(ap[0] - ab[0] * t, ap[1] - ab[1] * t, ap[2] - ab[2] * t);
  };
  return (owner, place) => {
    const near = [
      owner,
      joints[owner].parent,
      ...joints.flatMap((joint, i) => (joint.parent === owner ? [i] : [])),
    ].filter((i) => i >= 0);
    const scored = near
      .map((bone) => ({ bone, weight: (distance(place, bone) + 0.012) ** -5 }))
      .sort((a, b) => b.weight - a.weight)
      .slice(0, 4);
    const total = scored.reduce((sum, item) => sum + item.weight, 0);
    return scored.map((item) => [item.bone, item.weight / total]);
  };
}
