import { worldPositions } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { PassStep } from '../passes/run-passes';
import type { Snag, SnagDetector } from './snag';

/** Limbs, the joint they are seen from, and the joints that tell where they point. */
const LIMBS: readonly [limbs: 'legs' | 'arms', from: string, parts: readonly string[]][] = [
  ['legs', 'UpperLeg', ['LowerLeg', 'Foot']],
  ['arms', 'UpperArm', ['LowerArm', 'Hand']],
];
/** Both sides together must jump at least so far, metres, and trading them must bring them so much nearer. */
const JUMP = 0.25;
const NEARER = 0.5;
/** A swap that lasts longer than this is taken for the way it is, seconds. */
const LONGEST = 2;

/** Limbs that from one frame to the next point where those of the other side pointed, and go back. */
export const swaps: SnagDetector = {
  kind: 'swap',
  title: 'Left for right',
  find({ motion }) {
    const all = worldPositions(motion);
    const stride = motion.skeleton.joints.length * 3;
    return LIMBS.flatMap(([limbs, start, parts]): Snag[] => {
      const pairs = parts.map((part) => ['left', 'right'].map((side) => jointIndex(motion.skeleton, side + part)));
      if (pairs.some((pair) => Math.min(...pair) < 0)) return [];
      const roots = ['left', 'right'].map((side) => jointIndex(motion.skeleton, side + start));
      const pointing = (f: number, joint: number, side: number, k: number): number =>
        all[f * stride + joint * 3 + k] - all[f * stride + roots[side] * 3 + k];
      const apart = (f: number, pair: number[], a: number, b: number): number =>
        Math.hypot(...[0, 1, 2].map((k) => pointing(f, pair[a], a, k) - pointing(f - 1, pair[b], b, k)));
      const trades: { frame: number; way: number }[] = [];
      for (let f = 1; f < motion.frames; f++) {
        let [kept, traded] = [0, 0];
        for (const pair of pairs) {
          kept += apart(f, pair, 0, 0) + apart(f, pair, 1, 1);
          traded += apart(f, pair, 0, 1) + apart(f, pair, 1, 0);
        }
        if (kept > JUMP && traded < NEARER * kept) trades.push({ frame: f, way: kept / pairs.length / 2 });
      }
      const found: Snag[] = [];
      for (let i = 0; i + 1 < trades.length; i++) {
        const [a, b] = [trades[i], trades[i + 1]];
        if (b.frame - a.frame > LONGEST * motion.rate) continue;
        const pass = PassStep.parse({ pass: 'swap-sides', options: { limbs }, range: [a.frame, b.frame], ease: 0 });
        found.push({
          kind: 'swap',
          joint: limbs,
          from: a.frame,
          until: b.frame,
          severity: Math.max(a.way, b.way) * 100,
          unit: 'cm',
          mends: [{ pass }],
        });
        i++;
      }
      return found;
    });
  },
};
