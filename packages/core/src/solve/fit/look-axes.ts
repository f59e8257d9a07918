import type { PinholeCamera } from '../../camera/pinhole';

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
