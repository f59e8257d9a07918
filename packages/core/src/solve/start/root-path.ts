import { median } from '../../signal/joint-columns';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';

/** Marks that fix the place of the body, with the joint each is seen at. */
export const PLACING: readonly (readonly [MarkName, string])[] = (['left', 'right'] as const).flatMap((side) =>
  (
    [
      ['Shoulder', 'UpperArm'],
      ['Elbow', 'LowerArm'],
      ['Wrist', 'Hand'],
      ['Hip', 'UpperLeg'],
      ['Knee', 'LowerLeg'],
      ['Ankle', 'Foot'],
    ] as const
  ).map(([mark, joint]) => [`${side}${mark}` as MarkName, side + joint] as const),
);

/**
 * Places a body before the camera so that its joints fall on the marks: weighted linear least
 * squares in the three unknowns of the place (direct linear form of the pinhole equations).
 * @param joints one place relative to the hips for each entry of PLACING, metres, camera axes.
 * @param focal pixels.
 * @returns place of the hips, metres, camera axes (the camera looks along −Z); null when too few marks are seen.
 */
export function placeBody(
  observations: BodyObservations,
  frame: number,
  joints: readonly (readonly number[])[],
  focal: number,
): [number, number, number] | null {
  const a = new Float64Array(9);
  const b = new Float64Array(3);
  const row = (x: number, y: number, z: number, value: number, weight: number): void => {
    const r = [x, y, z];
    for (let i = 0; i < 3; i++) {
      b[i] += weight * r[i] * value;
      for (let k = 0; k < 3; k++) a[i * 3 + k] += weight * r[i] * r[k];
    }
  };
  let count = 0;
  PLACING.forEach(([mark], i) => {
    const at = (frame * MARK_COUNT + MARK[mark]) * 3;
    const visibility = observations.marks[at + 2];
    if (!(visibility > 0.3)) return;
    const u = (observations.marks[at] - observations.width / 2) / focal;
    const v = (observations.height / 2 - observations.marks[at + 1]) / focal;
    const [x, y, z] = joints[i];
    const weight = visibility * visibility;
    // u = (x + tx) / −(z + tz), v = (y + ty) / −(z + tz)
    row(1, 0, u, -x - u * z, weight);
    row(0, 1, v, -y - v * z, weight);
    count++;
  });
  if (count < 4) return null;
  const place = solve3(a, b);
  if (!place || place[2] > -0.3) return null;
  const farther = depthOff(observations, frame, joints, -place[2]);
  return place.map((value) => value * (1 + farther / -place[2])) as [number, number, number];
}

/** How much farther than a depth a depth camera has the body: the median over its marks; 0 without one. */
function depthOff(
  { depth, marks }: BodyObservations,
  frame: number,
  joints: readonly (readonly number[])[],
  place: number,
): number {
  if (!depth) return 0;
  const off = PLACING.flatMap(([mark], i) => {
    const told = depth[frame * MARK_COUNT + MARK[mark]];
    const visible = marks[(frame * MARK_COUNT + MARK[mark]) * 3 + 2] > 0.3;
    return told > 0 && visible ? [told - (place - joints[i][2])] : [];
  });
  return off.length < 4 ? 0 : median(off);
}

/** Solves a symmetric 3 × 3 system by Cramer's rule; null when it is singular. */
function solve3(a: Float64Array, b: Float64Array): [number, number, number] | null {
  const cross = (i: number, k: number): number =>
    a[((i + 1) % 3) * 3 + ((k + 1) % 3)] * a[((i + 2) % 3) * 3 + ((k + 2) % 3)] -
    a[((i + 1) % 3) * 3 + ((k + 2) % 3)] * a[((i + 2) % 3) * 3 + ((k + 1) % 3)];
  const determinant = a[0] * cross(0, 0) + a[1] * cross(0, 1) + a[2] * cross(0, 2);
  if (Math.abs(determinant) < 1e-12) return null;
  return [0, 1, 2].map((k) => (cross(0, k) * b[0] + cross(1, k) * b[1] + cross(2, k) * b[2]) / determinant) as [
    number,
    number,
    number,
  ];
}
