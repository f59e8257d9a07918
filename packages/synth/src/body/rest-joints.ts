import { jointIndex, restPositions, type Skeleton } from '@merry-shadow/core/motion/skeleton';
import type { Performer } from '../choreography/script';
import type { Vec } from './shapes';

/** What recipes ask of a body in its rest pose. */
export interface RestBody {
  joint: (name: string) => Vec;
  /** Metres for one of a body of 1.75 m: lengths, girths, and the head. */
  s: number;
  g: number;
  h: number;
}

export function restBody({ body }: Performer, skeleton: Skeleton): RestBody {
  const rest = restPositions(skeleton);
  const s = body.height / 1.75;
  return {
    joint: (name) => {
      const i = jointIndex(skeleton, name) * 3;
      return [rest[i], rest[i + 1], rest[i + 2]];
    },
    s,
    g: s * body.girth,
    h: s * body.head,
  };
}

export const plus = (p: Vec, x: number, y: number, z: number): Vec => [p[0] + x, p[1] + y, p[2] + z];
export const mix = (a: Vec, b: Vec, t: number): Vec => [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as unknown as Vec;
