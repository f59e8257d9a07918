import type { Agility } from './agility';

/**
 * Standard deviation of accelerations in those that were seen: across the view, along it by the picture, and along it by
 * the network's depth, which tells of fast gestures too little and of rest too much: a power of it, up to a bound in m/s².
 */
const ACROSS = 3.1;
const ALONG = 0.9;
const BY_DEPTH = 4.5;
const DEPTH_POWER = 2.2;
const MOST_BY_DEPTH = 300;

/** Standard deviation of a point's acceleration across the view in a frame, m/s². @param rest that of what rests. */
export function freeAcross({ across }: Agility, frame: number, rest: number): number {
  return rest + ACROSS * across[frame];
}

/** The same along the view. */
export function freeAlong({ across, along }: Agility, frame: number, rest: number): number {
  return rest + ALONG * across[frame] + Math.min(MOST_BY_DEPTH, BY_DEPTH * along[frame] ** DEPTH_POWER);
}
