import type { SeenShot } from '../observe/observe-shot';
import type { SolveOptions } from '../solved';
import { peopleGround, type PeopleGround } from './people-ground';

/** The floor of a shot as its people tell it; shared where all who are seen in it stand in one world. */
export type ShotGround = PeopleGround & { shared: boolean };

/** Floor and camera of a shot from all who are seen in it; null where the tilt is given or nobody stands. */
export function groundOfShot(
  seen: SeenShot,
  others: readonly (SeenShot & { height?: number })[],
  { height, tilt, manner }: SolveOptions,
): ShotGround | null {
  if (tilt !== undefined || manner === 'seated') return null;
  const ground = peopleGround([{ observations: seen.observations, height }, ...others], seen.focal);
  return ground && { ...ground, shared: others.length > 0 };
}
