import type { Region } from '../picture/picture';

/** How the region of a hand is cut out of the picture: turned on, larger or smaller, as in a mirror. */
export interface HandCrop {
  /** Radians, clockwise. */
  turn: number;
  size: number;
  mirrored: boolean;
}

/** The exact rule: upright, no larger than the region. */
export const AS_IT_IS: HandCrop = { turn: 0, size: 1, mirrored: false };

/** The square that is cut out of the picture. */
export function croppedRegion(region: Region, { turn, size }: HandCrop): Region {
  return { ...region, size: region.size * size, angle: region.angle + turn };
}
