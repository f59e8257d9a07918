import { vec3 } from 'gl-matrix';

/** What a line was drawn along: the horizon, or something that stands upright. */
export type LevelLine = 'horizon' | 'upright';

/** A place in the picture, pixels from its top left corner. */
export type PicturePoint = readonly [x: number, y: number];

/** An upright edge tells the pitch by how it leans; one in the middle of the picture leans at no pitch: the least share of its plane's normal. */
const LEAST_LEAN = 0.08;
/** A line shorter than this tells nothing, pixels. */
const SHORTEST = 8;

/**
 * How far a camera looks down, told by a line that was drawn on its picture: along the horizon, which shows the level through the
 * camera, or along an upright edge, as upright lines meet at the point straight below (R. Hartley and A. Zisserman, "Multiple View
 * Geometry", 2004, ch. 8). For an upright edge the camera is taken to be held level.
 * @param focal pixels.
 * @returns radians, below 0 where it looks up; null where the line can't tell it.
 */
export function pitchFromLine(
  kind: LevelLine,
  [a, b]: readonly [PicturePoint, PicturePoint],
  focal: number,
  width: number,
  height: number,
): number | null {
  if (Math.hypot(a[0] - b[0], a[1] - b[1]) < SHORTEST) return null;
  const ray = ([x, y]: PicturePoint): vec3 => [x - width / 2, height / 2 - y, -focal];
  const normal = vec3.cross([0, 0, 0], ray(a), ray(b));
  vec3.normalize(normal, normal);
  const [x, y, z] = normal;
  // The horizon's plane has the way up as its normal; the way up lies in that of an upright edge.
  if (kind === 'horizon') return Math.abs(y) < Math.abs(x) ? null : Math.atan2(z * Math.sign(y), Math.abs(y));
  if (Math.hypot(y, z) < LEAST_LEAN || Math.abs(x) < Math.abs(y)) return null;
  return Math.atan(-y / z);
}
