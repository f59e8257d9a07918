import { worldPositions, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { gaussianColumns } from '../signal/gaussian';
import type { KeyPose } from './key-poses';

/** The places on the body whose movement tells where it turns. */
const TOLD_BY = [
  'leftHand',
  'rightHand',
  'leftFoot',
  'rightFoot',
  'leftLowerArm',
  'rightLowerArm',
  'leftLowerLeg',
  'rightLowerLeg',
  'head',
  'upperChest',
  'hips',
];
/** How long shake goes on, seconds: speeds are smoothed over it. */
const SMOOTH = 0.05;
/** Between two extremes the body is so many times faster than at the slower of them, and so fast at least, m/s. */
const TIMES = 1.6;
const LEAST_SPEED = 0.12;
/** Extremes and breakdowns are this far apart at least, seconds. */
const APART = 0.1;

/**
 * Proposes the poses that carry a motion. Extremes lie where the body, seen from its hips, is slowest between two movements: where it turns or rests, as well as the first and
 * the last frame. Breakdowns are added where straight ways between the poses are farthest from the motion, the worst first (D. Douglas and T. Peucker, "Algorithms for the reduction of the number of points required to represent a digitized line", 1973),
 * until none is farther off than asked.
 * @param off metres by which a place on the body may be off before a breakdown is put in.
 * @param known poses that stay as they are.
 */
export function proposeKeyPoses(motion: Motion, off = 0.15, known: readonly KeyPose[] = []): KeyPose[] {
  const { frames } = motion;
  if (frames === 0) return [];
  const least = Math.max(2, Math.round(APART * motion.rate));
  const found = new Map<number, KeyPose['as']>(known.map(({ frame, as }) => [frame, as]));
  const isFree = (frame: number): boolean => [...found.keys()].every((other) => Math.abs(other - frame) >= least);
  for (const frame of [0, frames - 1, ...turningFrames(motion)]) if (isFree(frame)) found.set(frame, 'extreme');
  const places = toldPlaces(motion);
  for (;;) {
    const worst = farthest(
      places,
      frames,
      [...found.keys()].sort((a, b) => a - b),
      least,
    );
    if (!worst || worst.off <= off) break;
    found.set(worst.frame, 'breakdown');
  }
  return [...found].map(([frame, as]) => ({ frame, as })).sort((a, b) => a.frame - b.frame);
}

/** Frames × places × 3, metres in the world. */
function toldPlaces(motion: Motion): { values: Float64Array; width: number } {
  const joints = TOLD_BY.map((name) => jointIndex(motion.skeleton, name)).filter((joint) => joint >= 0);
  const all = worldPositions(motion);
  const stride = motion.skeleton.joints.length * 3;
  const width = joints.length * 3;
  const values = new Float64Array(motion.frames * width);
  for (let f = 0; f < motion.frames; f++)
    joints.forEach((joint, i) => {
      for (let k = 0; k < 3; k++) values[f * width + i * 3 + k] = all[f * stride + joint * 3 + k];
    });
  return { values, width };
}

/** How fast the body moves in each frame, seen from its hips but for up and down: root of the mean square over its places, m/s. */
export function poseSpeeds(motion: Motion): Float64Array {
  const { frames, rate } = motion;
  const { values, width } = toldPlaces(motion);
  const seen = new Float32Array(values.length);
  for (let f = 0; f < frames; f++)
    for (let i = 0; i < width; i++) {
      const hips = i % 3 === 1 ? 0 : motion.root[f * 3 + (i % 3)];
      seen[f * width + i] = values[f * width + i] - hips;
    }
  const smooth = gaussianColumns(seen, width, SMOOTH * rate);
  return Float64Array.from({ length: frames }, (_, f) => {
    const [a, b] = [Math.max(0, f - 1), Math.min(frames - 1, f + 1)];
    if (b === a) return 0;
    let sum = 0;
    for (let i = 0; i < width; i++) sum += (smooth[b * width + i] - smooth[a * width + i]) ** 2;
    return (Math.sqrt(sum / (width / 3)) * rate) / (b - a);
  });
}

/** Frames in which the body is slowest between two movements: a zigzag over its speed that turns where this rises or falls by enough. */
function turningFrames(motion: Motion): number[] {
  const speeds = poseSpeeds(motion);
  const out: number[] = [];
  let [slow, fast] = [0, 0];
  let falls = false;
  for (let f = 0; f < speeds.length; f++) {
    if (falls) {
      if (speeds[f] < speeds[slow]) slow = f;
      if (speeds[f] < Math.max(TIMES * speeds[slow], speeds[slow] + LEAST_SPEED)) continue;
      out.push(slow);
      [falls, fast] = [false, f];
    } else {
      if (speeds[f] > speeds[fast]) fast = f;
      if (speeds[f] > Math.min(speeds[fast] / TIMES, speeds[fast] - LEAST_SPEED)) continue;
      [falls, slow] = [true, f];
    }
  }
  if (falls) out.push(slow);
  return out;
}

/** The frame that lies farthest from the straight way between the poses beside it; null where the poses lie too near for another. */
function farthest(
  { values, width }: { values: Float64Array; width: number },
  frames: number,
  poses: readonly number[],
  least: number,
): { frame: number; off: number } | null {
  let worst: { frame: number; off: number } | null = null;
  for (let i = 0; i + 1 < poses.length; i++) {
    const [from, to] = [poses[i], poses[i + 1]];
    for (let f = from + least; f <= Math.min(to - least, frames - 1); f++) {
      const share = (f - from) / (to - from);
      let off = 0;
      for (let p = 0; p < width; p += 3) {
        const away = [0, 1, 2].map((k) => {
          const [a, b] = [values[from * width + p + k], values[to * width + p + k]];
          return values[f * width + p + k] - a - share * (b - a);
        });
        off = Math.max(off, Math.hypot(...away));
      }
      if (!worst || off > worst.off) worst = { frame: f, off };
    }
  }
  return worst;
}
