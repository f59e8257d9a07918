import { z } from 'zod';
import { solePoints, soleTrack } from '../ground/floor';
import { SIDES } from '../motion/humanoid';
import { limbOfSide, reachFor } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion } from '../motion/motion';
import { chainOf } from '../motion/skeleton';
import { coverReach, coverSmoothly } from '../signal/cover';
import type { Pass } from './pass';

const Options = z.object({
  ease: z.number().min(0.02).max(0.5).default(0.08).meta({ title: 'Comes and goes over', unit: 's', step: 0.01 }),
});

const wideOf = (ease: number, rate: number): number => Math.ceil(ease * rate);

/** Lifts feet that sink into the floor until their soles lie on it, where they are; each leg follows by two-bone IK, and the lift comes and goes smoothly. */
export const clearFloor: Pass<z.infer<typeof Options>> = {
  name: 'clear-floor',
  title: 'Out of the floor',
  about: 'Lifts feet that sink into the floor. Nothing else moves, and the feet go on as they went.',
  options: Options,
  reach: ({ ease }, rate) => coverReach(wideOf(ease, rate)),
  apply(motion: Motion, { ease }): Motion {
    const points = solePoints(motion);
    const track = soleTrack(motion, points);
    const out = copyMotion(motion);
    const pose = emptyPose(motion.skeleton);
    for (const side of SIDES) {
      const limb = limbOfSide(motion.skeleton, side, ['UpperLeg', 'LowerLeg', 'Foot']);
      const soles = points.flatMap(({ name }, i) => (name.startsWith(side) ? [i] : []));
      if (!limb || soles.length === 0) continue;
      const depth = Float32Array.from({ length: motion.frames }, (_, frame) =>
        Math.max(0, ...soles.map((sole) => -track[(frame * points.length + sole) * 3 + 1])),
      );
      const lift = coverSmoothly(depth, wideOf(ease, motion.rate));
      const chain = chainOf(motion.skeleton, [limb.end]);
      for (let frame = 0; frame < motion.frames; frame++) {
        if (lift[frame] < 1e-5) continue;
        poseAt(out, frame, pose, chain);
        const at = limb.end * 3;
        const place = [pose.positions[at], pose.positions[at + 1] + lift[frame], pose.positions[at + 2]];
        reachFor(out, pose, frame, limb, place, pose.rotations.slice(limb.end * 4, limb.end * 4 + 4));
      }
    }
    alignSigns(out);
    return out;
  },
};
