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
