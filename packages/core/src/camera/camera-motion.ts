import type { mat3 } from 'gl-matrix';
import { DEFAULT_FIELD_OF_VIEW, focalFromFieldOfView } from './pinhole';

/**
 * How a camera moved from one frame to the next, told by what stands still in the picture: where the middle of
 * the picture went (pixels, right and down), how far the picture turned (radians, clockwise as seen on the screen),
 * and the logarithm of how much larger everything became. All 0 when the camera stood still, NaN where nothing in the picture
 * tells whether it did.
 */
export type CameraMotion = readonly [right: number, down: number, turn: number, growth: number];
export const CAMERA_MOTION_WIDTH = 4;

/** Focal length, pixels, that a camera motion is told with: what is turned by an angle moves by so much more at the border. */
export const cameraMotionFocal = (width: number, height: number): number =>
  focalFromFieldOfView(DEFAULT_FIELD_OF_VIEW, width, height);

/**
 * What a camera motion does to points of the picture about its middle, in focal lengths (x right, y down), as a homography: a
 * camera that turns maps rays by a rotation (R. Hartley and A. Zisserman, "Multiple View Geometry", 2nd ed., 8.4).
 * Column-major, as gl-matrix has it.
 * @param focal pixels.
 */
export function cameraMotionMap([right, down, turn, growth]: CameraMotion, focal: number): mat3 {
  const map = rotation(right / focal, down / focal, turn);
  const grown = Math.exp(growth);
  for (let column = 0; column < 3; column++) {
    map[column * 3] *= grown;
    map[column * 3 + 1] *= grown;
  }
  return map;
}

/** The camera motion whose map this is, or the nearest one. The inverse of `cameraMotionMap`. */
export function cameraMotionOf(map: mat3, focal: number): CameraMotion {
  const row = (k: number): number => Math.hypot(map[k], map[3 + k], map[6 + k]);
  const [wide, high, deep] = [row(0), row(1), row(2)];
  const at = (r: number, c: number): number => map[c * 3 + r] / [wide, high, deep][r];
  // The rotation's vector from its antisymmetric part, which is exact enough for the turns between frames.
  const [x, y, z] = [(at(0, 2) - at(2, 0)) / 2, (at(1, 2) - at(2, 1)) / 2, (at(1, 0) - at(0, 1)) / 2];
  const sine = Math.hypot(x, y, z);
  const stretch = sine > 1e-9 ? Math.asin(Math.min(1, sine)) / sine : 1;
  return [x * stretch * focal, y * stretch * focal, z * stretch, Math.log((wide + high) / (2 * deep))];
}

/** A rotation that moves the middle by x right and y down and turns clockwise (O. Rodrigues, 1840). */
export function rotation(x: number, y: number, turn: number): mat3 {
  const angle = Math.hypot(x, y, turn);
  if (angle < 1e-12) return [1, 0, 0, 0, 1, 0, 0, 0, 1];
  const axis = [-y / angle, x / angle, turn / angle];
  const [s, c] = [Math.sin(angle), 1 - Math.cos(angle)];
  const [u, v, w] = axis;
  return [
    1 - c * (v * v + w * w),
    s * w + c * u * v,
    -s * v + c * u * w,
    -s * w + c * u * v,
    1 - c * (u * u + w * w),
    s * u + c * v * w,
    s * v + c * u * w,
    -s * u + c * v * w,
    1 - c * (u * u + v * v),
  ];
}
