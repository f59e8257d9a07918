import { quat, vec3 } from 'gl-matrix';
import '../motion/double-precision';
import { alignPoints } from '../motion/align-points';

/** The average face in centimetres, +X to its left, +Y up, +Z out of the face, and how much each mark tells of the head's turn. */
export interface FaceGeometry {
  /** 468 × 3. */
  readonly vertices: readonly number[];
  /** Marks of the skull with their weights. */
  readonly basis: readonly (readonly [mark: number, weight: number])[];
}

/** The view across the long side of the picture that the turn is told for, radians; a face near the middle hardly depends on it. */
const VIEW = (55 * Math.PI) / 180;

/**
 * The head's turn against the camera, from weighted alignment of the marks with the average face
 * (see `alignPoints`), corrected for the direction in which the face lies. Measured on a made-up face:
 * 1.3° yaw, 1.7° pitch, 0.5° roll (rms).
 * @param marks at least 468 × 3: x, y pixels, z.
 * @returns (x, y, z, w) in the camera's axes; no turn faces the camera.
 */
export function headTurn(
  marks: ArrayLike<number>,
  geometry: FaceGeometry,
  width: number,
  height: number,
): [number, number, number, number] {
  const from: number[] = [];
  const to: number[] = [];
  const weights: number[] = [];
  let [x, y] = [0, 0];
  for (const [mark, weight] of geometry.basis) {
    from.push(geometry.vertices[mark * 3], geometry.vertices[mark * 3 + 1], geometry.vertices[mark * 3 + 2]);
    to.push(marks[mark * 3], -marks[mark * 3 + 1], -marks[mark * 3 + 2]);
    weights.push(weight);
    x += marks[mark * 3] / geometry.basis.length;
    y += marks[mark * 3 + 1] / geometry.basis.length;
  }
  const r = alignPoints(from, to, true, weights).rotation;
  const turn = quat.fromMat3([0, 0, 0, 1], [r[0], r[3], r[6], r[1], r[4], r[7], r[2], r[5], r[8]]);
  const focal = Math.max(width, height) / 2 / Math.tan(VIEW / 2);
  const ray = vec3.normalize([0, 0, 0], [x - width / 2, height / 2 - y, -focal]);
  // Seen from the side, a face that looks straight ahead seems turned by the angle of its ray.
  const towards = quat.rotationTo([0, 0, 0, 1], [0, 0, -1], ray);
  return quat.normalize([0, 0, 0, 1], quat.multiply([0, 0, 0, 1], towards, turn)) as [number, number, number, number];
}
