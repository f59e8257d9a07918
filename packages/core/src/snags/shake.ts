import { bodyPartOf } from '../motion/body-parts';
import { worldPositions } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { gaussianColumns } from '../signal/gaussian';
import { NO_CONTEXT } from '../passes/pass';
import { removePops } from '../passes/remove-pops';
import { PassStep } from '../passes/run-passes';
import { runsWhere } from '../signal/runs';
import { type SnagDetector } from './snag';

const SEEN_AT = ['leftHand', 'rightHand', 'leftFoot', 'rightFoot', 'head'];
/** Seconds of the calm path that speed is taken from, and of the stretch that shake is averaged over. */
const CALM = 0.07;
const STRETCH = 0.25;
/** Shake that counts, metres. */
const LIMIT = 0.003;
/** A joint that goes somewhere as fast as this does not shake, m/s. */
const GOING = 1;
const LEAST_SECONDS = 0.3;
/** Smoothing that may mend it, seconds. */
const STRENGTHS = [0.08, 0.14, 0.2];

/** Hands, feet and head that tremble while they go nowhere. */
export const shake: SnagDetector = {
  kind: 'shake',
  title: 'Shake',
  find({ motion: captured }) {
    // A joint that jumps once does not shake.
    const motion = removePops.apply(captured, removePops.options.parse({}), NO_CONTEXT);
    const all = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    const { frames, rate } = motion;
    return SEEN_AT.flatMap((name) => {
      const joint = jointIndex(motion.skeleton, name);
      if (joint < 0) return [];
      const path = Float32Array.from(
        { length: frames * 3 },
        (_, i) => all[Math.floor(i / 3) * stride + joint * 3 + (i % 3)],
      );
      const beside = Math.round((STRETCH * rate) / 2);
      const calm = gaussianColumns(path, 3, CALM * rate);
      const off = Float32Array.from({ length: frames }, (_, f) => tremble(path, Math.min(frames - 3, Math.max(1, f))));
      const mean = gaussianColumns(off, 1, (STRETCH * rate) / 2);
      const speed = (f: number): number => {
        const [a, b] = [Math.max(0, f - 2), Math.min(frames - 1, f + 2)];
        return b > a ? (apart(calm, calm, a, b) * rate) / (b - a) : 0;
      };
      return runsWhere(frames, (f) => mean[f] > LIMIT && speed(f) < GOING, LEAST_SECONDS * rate).map(
        ([from, until]) => ({
          kind: 'shake' as const,
          joint: name,
          from,
          until,
          severity: Math.max(...mean.subarray(from, until)) * 100,
          unit: 'cm' as const,
          mends: STRENGTHS.map((joints) => ({
            pass: PassStep.parse({
              pass: 'smooth',
              options: { joints },
              range: [Math.max(0, from - beside), Math.min(frames, until + beside)],
              parts: name === 'head' ? ['head', 'trunk'] : [limbOf(name)],
            }),
          })),
        }),
      );
    });
  },
};

/** Third difference of a path, as the size of a shake from frame to frame that would give it: of a gesture next to nothing is left. */
function tremble(path: Float32Array, f: number): number {
  if (f < 1) return 0;
  const third = (k: number): number =>
    path[(f + 2) * 3 + k] - 3 * path[(f + 1) * 3 + k] + 3 * path[f * 3 + k] - path[(f - 1) * 3 + k];
  return Math.hypot(third(0), third(1), third(2)) / 8;
}

const limbOf = (name: string): string => (name.endsWith('Hand') ? name.replace('Hand', 'Arm') : bodyPartOf(name));

function apart(a: Float32Array, b: Float32Array, i: number, k: number): number {
  return Math.hypot(a[i * 3] - b[k * 3], a[i * 3 + 1] - b[k * 3 + 1], a[i * 3 + 2] - b[k * 3 + 2]);
}
