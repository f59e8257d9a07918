import { quat, vec3 } from 'gl-matrix';
import type { PinholeCamera } from '../../camera/pinhole';
import { lowestSole, solePoints, soleTrack } from '../../ground/floor';
import { readRotation, writeRotation, type Motion } from '../../motion/motion';

/** Soles slower than this are taken to rest, m/s. */
const SLOW = 0.2;
/** How far a resting sole may be off, metres; soles that rest within one square of this width count as one, fewer than so many of them as less; what is believed of the tilt beforehand, radians. */
const SIGMA = 0.022;
const SQUARE = 0.4;
const LEAST_CROWD = 12;
const TILT_SIGMA = 0.065;
const ROLL_SIGMA = 0.02;
const ROUNDS = 8;
/** What lies lower than this part of all that rests is a mistake; what lies higher above it than so many metres rests on something else than the floor. */
const LOWEST = 0.05;
const SAME_FLOOR = 0.2;
/** How often the floor is told anew from what rests on it. */
const LOOKS = 3;

/**
 * Finds the floor under the feet and turns and lifts motion and camera together so that it is level at
 * y = 0: a plane through the resting soles by robust ridge regression, so that a take on the spot, which
 * tells nothing of the slope, keeps the tilt that the upright body gave. Of several levels the lowest is the floor;
 * where no sole rests, the floor lies under the lowest.
 * Changes the motion in place.
 * @param tilts false where the camera's tilt is known: then the floor is lifted alone.
 * @returns the camera in the levelled world.
 */
export function levelFloor(motion: Motion, camera: PinholeCamera, tilts = true, doubt = TILT_SIGMA): PinholeCamera {
  const resting = restingSoles(motion);
  if (resting.length === 0) return liftWorld(motion, camera, -percentile(Array.from(lowestSole(motion)), LOWEST));
  let [slopeX, slopeZ] = [0, 0];
  for (let look = 0; tilts && look < LOOKS; look++)
    [slopeX, slopeZ] = fitPlane(
      onLowest(resting, ([x, y, z]) => y - slopeX * x - slopeZ * z),
      doubt,
    );
  const turn = quat.rotationTo([0, 0, 0, 1], vec3.normalize([0, 0, 0], [-slopeX, 1, -slopeZ]), [0, 1, 0]);
  const turned = turnWorld(motion, camera, turn);
  const again = onLowest(restingSoles(motion), ([, y]) => y).map(([, y]) => y);
  // Most of what rests rests on the floor; what is slow in the air lies above it.
  return liftWorld(motion, turned, -percentile(again, 0.4));
}

const percentile = (values: readonly number[], share: number): number =>
  [...values].sort((a, b) => a - b)[Math.floor(values.length * share)];

/** Lifts motion and camera together. Changes the motion in place. */
export function liftWorld(motion: Motion, camera: PinholeCamera, lift: number): PinholeCamera {
  for (let frame = 0; frame < motion.frames; frame++) motion.root[frame * 3 + 1] += lift;
  return raised(camera, lift);
}

/** The camera so much higher, metres. */
export function raised(camera: PinholeCamera, lift: number): PinholeCamera {
  const [x, y, z] = camera.position;
  return { ...camera, position: [x, y + lift, z] };
}

type Point = readonly [x: number, y: number, z: number];

/** Those points that rest on the lowest floor: who steps onto a thing rests higher. */
function onLowest(points: readonly Point[], height: (point: Point) => number): Point[] {
  const heights = points.map(height);
  const base = percentile(heights, LOWEST);
  return points.filter((_, i) => heights[i] < base + SAME_FLOOR);
}

/** Slow soles, of each frame the lowest one. */
function restingSoles(motion: Motion): Point[] {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  const stride = points.length * 3;
  const found: Point[] = [];
  for (let frame = 1; frame < motion.frames; frame++) {
    let best = -1;
    for (let p = 0; p < points.length; p++) {
      const at = frame * stride + p * 3;
      const speed =
        Math.hypot(
          track[at] - track[at - stride],
          track[at + 1] - track[at + 1 - stride],
          0.3 * (track[at + 2] - track[at + 2 - stride]),
        ) * motion.rate;
      if (speed < SLOW && (best < 0 || track[at + 1] < track[frame * stride + best * 3 + 1])) best = p;
    }
    if (best >= 0)
      found.push([
        track[frame * stride + best * 3],
        track[frame * stride + best * 3 + 1],
        track[frame * stride + best * 3 + 2],
      ]);
  }
  return found;
}

/** @returns slopes of the plane along x and z. */
function fitPlane(points: readonly Point[], doubt: number): [number, number] {
  const mean = [0, 1, 2].map((k) => points.reduce((sum, point) => sum + point[k], 0) / points.length);
  // However long a foot rests at a place, it tells of the floor there but once.
  const square = ([x, , z]: Point): string => `${Math.round(x / SQUARE)} ${Math.round(z / SQUARE)}`;
  const crowd = new Map<string, number>();
  for (const point of points) crowd.set(square(point), (crowd.get(square(point)) ?? 0) + 1);
  const share = points.map((point) => 1 / Math.max(LEAST_CROWD, crowd.get(square(point)) ?? 1));
  let [bx, bz, level] = [0, 0, 0];
  for (let round = 0; round < ROUNDS; round++) {
    // Normal equations in level, slope along x, slope along z.
    const a = [1e-9, 0, 0, 1 / ROLL_SIGMA ** 2, 0, 1 / doubt ** 2];
    const r = [0, 0, 0];
    for (const [i, [px, py, pz]] of points.entries()) {
      const [x, y, z] = [px - mean[0], py - mean[1], pz - mean[2]];
      const off = Math.abs(y - level - bx * x - bz * z) / SIGMA;
      const w = ((off > 1 ? 1 / off : 1) * share[i]) / (SIGMA * SIGMA);
      a[0] += w;
      a[1] += w * x;
      a[2] += w * z;
      a[3] += w * x * x;
      a[4] += w * x * z;
      a[5] += w * z * z;
      r[0] += w * y;
      r[1] += w * x * y;
      r[2] += w * z * y;
    }
    [level, bx, bz] = solveSymmetric(a, r);
  }
  return [bx, bz];
}

function solveSymmetric([a, b, c, d, e, f]: number[], [p, q, s]: number[]): [number, number, number] {
  const determinant = a * (d * f - e * e) - b * (b * f - c * e) + c * (b * e - c * d);
  return [
    (p * (d * f - e * e) - b * (q * f - e * s) + c * (q * e - d * s)) / determinant,
    (a * (q * f - e * s) - p * (b * f - c * e) + c * (b * s - c * q)) / determinant,
    (a * (d * s - q * e) - b * (b * s - c * q) + p * (b * e - c * d)) / determinant,
  ];
}

function turnWorld(motion: Motion, camera: PinholeCamera, turn: quat): PinholeCamera {
  const moved = (v: readonly number[]): vec3 => vec3.transformQuat([0, 0, 0], [v[0], v[1], v[2]], turn);
  const hips: quat = [0, 0, 0, 1];
  for (let frame = 0; frame < motion.frames; frame++) {
    motion.root.set(moved(Array.from(motion.root.subarray(frame * 3, frame * 3 + 3))), frame * 3);
    readRotation(motion, 0, frame, hips);
    writeRotation(motion, 0, frame, quat.multiply([0, 0, 0, 1], turn, hips));
  }
  const [x, y, z] = moved(camera.position);
  return {
    ...camera,
    position: [x, y, z],
    axes: [0, 3, 6].flatMap((row) => [...moved(camera.axes.slice(row, row + 3))]),
  };
}
