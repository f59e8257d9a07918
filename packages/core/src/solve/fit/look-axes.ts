import type { PinholeCamera } from '../../camera/pinhole';
import { MARK, MARK_COUNT } from '../../observe/body';

/** A trunk is about so long, metres: it tells what a pixel is where the body is. */
export const TRUNK = 0.5;

/** Length of the trunk in the picture, pixels; at least a few. */
export function trunkPixels(marks: Float32Array, frame: number): number {
  const at = (m: number): number => (frame * MARK_COUNT + m) * 3;
  const side = (a: number, b: number): number =>
    Math.hypot(marks[at(a)] - marks[at(b)], marks[at(a) + 1] - marks[at(b) + 1]);
  return Math.max(6, side(MARK.leftShoulder, MARK.leftHip), side(MARK.rightShoulder, MARK.rightHip));
}

/** Three directions for a point: two across the view (in the picture's axes), and along it. Rows of `out`. */
export function lookAxes(places: Float64Array, at: number, camera: PinholeCamera, out: Float64Array): void {
  const { axes, position } = camera;
  let [x, y, z] = [places[at] - position[0], places[at + 1] - position[1], places[at + 2] - position[2]];
  const length = Math.hypot(x, y, z) || 1;
  [x, y, z] = [x / length, y / length, z / length];
  const dot = axes[0] * x + axes[1] * y + axes[2] * z;
  let [rx, ry, rz] = [axes[0] - dot * x, axes[1] - dot * y, axes[2] - dot * z];
  const r = Math.hypot(rx, ry, rz) || 1;
  [rx, ry, rz] = [rx / r, ry / r, rz / r];
  out.set([rx, ry, rz, y * rz - z * ry, z * rx - x * rz, x * ry - y * rx, x, y, z]);
}
