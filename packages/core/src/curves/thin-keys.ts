import type { Motion } from '../motion/motion';
import { jointIndex, restPose } from '../motion/skeleton';
import { quat } from 'gl-matrix';
import type { Run } from '../signal/runs';
import { orderOf, turnFromAxes } from './axis-turns';
import { channelsOf, readChannels } from './channels';
import { CurveCourse, type CurveKey } from './curve';

/** How far a thinned course may be from the motion. */
export interface ThinTolerance {
  /** For turns and where the eyes look. */
  degrees: number;
  /** For what hangs on a joint, at its farthest point, and for the root. */
  centimetres: number;
}
/** A curve of the face may be off by so much, for a degree that is allowed. */
const SHARE_FOR_DEGREE = 0.01;

export interface ThinnedKeys {
  channels: CurveKey[][];
  /** The largest that the keys' course is off, in degrees (shares for the face) and in centimetres, and in which frame. */
  worst: { frame: number; off: number; centimetres: number };
}

/**
 * Finds few keys whose smooth course stays within a tolerance of the motion. All channels of a target get keys in the same frames, as the error of a turn belongs to all three. Greedy with refit: from
 * the ends and turning points on, every piece that is off too far gets a key where it is farthest off (Douglas and Peucker 1973, with curves for lines); then each key is left out
 * again whose neighbours' course does without it.
 * @param run frames that are thinned. @returns null where the motion has no such target.
 */
export function thinKeys(
  motion: Motion,
  target: string,
  [from, until]: Run,
  tolerance: ThinTolerance,
): ThinnedKeys | null {
  const rows = readChannels(motion, target);
  const found = channelsOf(motion, target);
  if (!rows || !found || until <= from) return null;
  const reach = found.unit === 'degrees' && found.count === 3 ? reachOf(motion, target) : 0;
  const measure = errorMeasure(target, rows, found.unit, found.count, reach);
  /** How far off a frame is, against what is allowed: above 1 it is too far. */
  const farAt = (frame: number, courses: readonly CurveCourse[]): number => {
    const { off, centimetres } = measure(frame, courses);
    const allowed = found.unit === 'share' ? tolerance.degrees * SHARE_FOR_DEGREE : tolerance.degrees;
    return Math.max(found.unit === 'centimetres' ? 0 : off / allowed, centimetres / tolerance.centimetres);
  };
  const keysAt = (frames: readonly number[]): CurveKey[][] =>
    rows.map((row) => frames.map((frame) => ({ frame, value: row[frame], shape: 'smooth' as const })));
  const coursesAt = (frames: readonly number[]): CurveCourse[] => keysAt(frames).map((keys) => new CurveCourse(keys));

  let frames = until - 1 > from ? [from, until - 1] : [from];
  for (let grows = true; grows;) {
    const courses = coursesAt(frames);
    const more: number[] = [];
    for (let i = 0; i + 1 < frames.length; i++) {
      let [worst, most] = [-1, 1];
      for (let frame = frames[i] + 1; frame < frames[i + 1]; frame++) {
        const far = farAt(frame, courses);
        if (far > most) [worst, most] = [frame, far];
      }
      if (worst >= 0) more.push(worst);
    }
    grows = more.length > 0;
    frames = [...frames, ...more].sort((a, b) => a - b);
  }
  // A key's slope hangs on its neighbours, so that leaving one out changes two pieces to either side.
  for (let i = frames.length - 2; i > 0; i--) {
    const [first, last] = [Math.max(0, i - 3), Math.min(frames.length - 1, i + 3)];
    const near = frames.slice(Math.max(0, i - 4), i + 5).filter((frame) => frame !== frames[i]);
    const courses = coursesAt(near);
    let fits = true;
    for (let frame = frames[first]; frame <= frames[last] && fits; frame++) fits = farAt(frame, courses) <= 1;
    if (fits) frames.splice(i, 1);
  }
  const courses = coursesAt(frames);
  const worst = { frame: from, off: 0, centimetres: 0 };
  for (let frame = from; frame < until; frame++) {
    const { off, centimetres } = measure(frame, courses);
    if (off > worst.off) Object.assign(worst, { frame, off });
    worst.centimetres = Math.max(worst.centimetres, centimetres);
  }
  return { channels: keysAt(frames), worst };
}

/** How far what hangs on a joint reaches from it in the rest pose, metres. */
function reachOf({ skeleton }: Motion, target: string): number {
  const joint = jointIndex(skeleton, target);
  const { positions } = restPose(skeleton);
  const hangs = skeleton.joints.map(() => false);
  let reach = 0;
  skeleton.joints.forEach(({ parent }, i) => {
    hangs[i] = i === joint || (parent >= 0 && hangs[parent]);
    if (hangs[i])
      reach = Math.max(reach, Math.hypot(...[0, 1, 2].map((k) => positions[i * 3 + k] - positions[joint * 3 + k])));
  });
  return reach;
}

type Measure = (frame: number, courses: readonly CurveCourse[]) => { off: number; centimetres: number };

function errorMeasure(
  target: string,
  rows: readonly Float64Array[],
  unit: 'degrees' | 'centimetres' | 'share',
  count: 1 | 3,
  reach: number,
): Measure {
  const distance = (frame: number, courses: readonly CurveCourse[]): number =>
    Math.hypot(...courses.map((course, k) => course.at(frame) - rows[k][frame]));
  if (unit === 'centimetres') return (frame, courses) => ({ off: 0, centimetres: distance(frame, courses) });
  if (count === 1) return (frame, courses) => ({ off: distance(frame, courses), centimetres: 0 });
  const order = orderOf(target);
  return (frame, courses) => {
    const [a, b] = [courses.map((course) => course.at(frame)), rows.map((row) => row[frame])].map((turns) =>
      turnFromAxes(turns, order),
    );
    const angle = 2 * Math.acos(Math.min(1, Math.abs(quat.dot(a, b))));
    return { off: (angle * 180) / Math.PI, centimetres: 200 * Math.sin(angle / 2) * reach };
  };
}
