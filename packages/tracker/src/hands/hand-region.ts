import { MARK, type MarkName } from '@merry-shadow/core/observe/body';
import type { Side } from '@merry-shadow/core/motion/humanoid';
import { regionToPicture, type Region } from '../picture/picture';

/** How much larger than twice the reach of the palm the first region is, and how far it is moved on towards the fingers. */
const FIRST_SCALE = 2.7;
const FIRST_SHIFT = 0.2;
/** The square whose upper side lies in the direction from one point to another. */
function uprightSquare(
  fromX: number,
  fromY: number,
  toX: number,
  toY: number,
  x: number,
  y: number,
  size: number,
): Region {
  return { x, y, size, angle: Math.atan2(toX - fromX, -(toY - fromY)) };
}

/**
 * Where a hand should be: round the root of its middle finger, as far as the body's marks tell.
 * @param marks 33 × 3 of one frame: x, y pixels, visibility.
 */
export function handRegionFromBody(marks: ArrayLike<number>, side: Side): Region {
  const point = (name: string): [number, number] => [
    marks[MARK[(side + name) as MarkName] * 3],
    marks[MARK[(side + name) as MarkName] * 3 + 1],
  ];
  const [wx, wy] = point('Wrist');
  const [ix, iy] = point('Index');
  const [px, py] = point('Pinky');
  const [mx, my] = [(2 * ix + px) / 3, (2 * iy + py) / 3];
  const reach = Math.hypot(mx - wx, my - wy);
  return uprightSquare(
    wx,
    wy,
    mx,
    my,
    mx + (mx - wx) * FIRST_SHIFT,
    my + (my - wy) * FIRST_SHIFT,
    2 * reach * FIRST_SCALE,
  );
}

/**
 * The better region that the re-crop network proposes: round the first of its two points, turned so
 * that the second, towards the arm, lies below.
 * @param values x, y of both points in 256 px of the first region.
 */
export function handRegionFromRecrop(values: ArrayLike<number>, first: Region): Region {
  const [cx, cy] = regionToPicture(first, values[0] / 256, values[1] / 256);
  const [tx, ty] = regionToPicture(first, values[2] / 256, values[3] / 256);
  return uprightSquare(tx, ty, cx, cy, cx, cy, 2 * Math.hypot(tx - cx, ty - cy));
}
