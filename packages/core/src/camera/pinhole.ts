/**
 * A pinhole camera. Its own axes are +X right, +Y up, looking along −Z (the glTF convention).
 * Image points are pixels of the upright picture with the origin at the top left corner.
 */
export interface PinholeCamera {
  /** Where it is in the world, metres. */
  readonly position: readonly [number, number, number];
  /** Its own axes in the world as rows: right, up, back; 9 numbers. */
  readonly axes: readonly number[];
  /** Focal length in pixels. */
  readonly focal: number;
  readonly width: number;
  readonly height: number;
}

/** The view across the long side of the picture that is assumed when nothing is known, degrees. */
export const DEFAULT_FIELD_OF_VIEW = 55;

/**
 * Focal length in pixels.
 * @param fieldOfView across the long side, degrees, 5 … 150.
 */
export function focalFromFieldOfView(fieldOfView: number, width: number, height: number): number {
  return Math.max(width, height) / 2 / Math.tan((fieldOfView * Math.PI) / 360);
}

/** How far a camera looks down, radians. */
export const pitchOf = ({ axes }: Pick<PinholeCamera, 'axes'>): number => Math.atan2(axes[7], axes[4]);

/** A camera at a place that looks at a target, its right side level. */
export function lookAt(
  position: readonly [number, number, number],
  target: readonly [number, number, number],
  fieldOfView: number,
  width: number,
  height: number,
): PinholeCamera {
  const back = normalized([0, 1, 2].map((i) => position[i] - target[i]));
  const right = normalized([back[2], 0, -back[0]]);
  const up = [
    back[1] * right[2] - back[2] * right[1],
    back[2] * right[0] - back[0] * right[2],
    back[0] * right[1] - back[1] * right[0],
  ];
  return {
    position,
    axes: [...right, ...up, ...back],
    focal: focalFromFieldOfView(fieldOfView, width, height),
    width,
    height,
  };
}

function normalized(v: number[]): number[] {
  const length = Math.hypot(...v);
  if (length < 1e-9) throw new Error('The camera stands on its own target or looks straight down.');
  return v.map((value) => value / length);
}

/**
 * Projects a world point.
 * @returns [x px, y px, distance along the view in metres]; a distance ≤ 0 lies behind the camera.
 */
export function project(camera: PinholeCamera, x: number, y: number, z: number): [number, number, number] {
  const dx = x - camera.position[0];
  const dy = y - camera.position[1];
  const dz = z - camera.position[2];
  const a = camera.axes;
  const right = a[0] * dx + a[1] * dy + a[2] * dz;
  const up = a[3] * dx + a[4] * dy + a[5] * dz;
  const depth = -(a[6] * dx + a[7] * dy + a[8] * dz);
  return [camera.width / 2 + (camera.focal * right) / depth, camera.height / 2 - (camera.focal * up) / depth, depth];
}

/** Direction in the world of the ray through an image point, not normalised: one metre along the view. */
export function rayThrough(camera: PinholeCamera, px: number, py: number): [number, number, number] {
  const rx = (px - camera.width / 2) / camera.focal;
  const ry = (camera.height / 2 - py) / camera.focal;
  const a = camera.axes;
  return [0, 1, 2].map((i) => rx * a[i] + ry * a[3 + i] - a[6 + i]) as [number, number, number];
}
