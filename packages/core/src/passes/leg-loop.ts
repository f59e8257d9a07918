import { quat, vec3 } from 'gl-matrix';
import { z } from 'zod';
import { solePoints } from '../ground/floor';
import type { Side } from '../motion/humanoid';
import { hangLegs, legsOf, type Leg } from '../motion/legs';
import { limbLengths, reachFor } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, writeRotation, type Motion, type Pose } from '../motion/motion';
import { chainOf, restPositions, type Skeleton } from '../motion/skeleton';
import { usualFacing, usualPlace } from '../signal/usual';
import type { Pass } from './pass';

const LOOPS = {
  standing: 'standing easy',
  shifting: 'weight from foot to foot',
  tapping: 'a foot taps',
  seated: 'seated',
} as const;
type Loop = keyof typeof LOOPS;

const Options = z.object({
  loop: z
    .enum(Object.keys(LOOPS) as [Loop, ...Loop[]])
    .default('standing')
    .meta({ title: 'Legs', choices: LOOPS }),
  apart: z.number().min(5).max(90).default(26).meta({ title: 'Feet apart', unit: 'cm', step: 1 }),
  pace: z.number().min(0.4).max(12).default(4).meta({ title: 'Once in', unit: 's', step: 0.1 }),
});

/** How far hips sway aside, metres. */
const SWAY: Record<Loop, number> = { standing: 0.008, shifting: 0.035, tapping: 0.006, seated: 0 };
/** Toes point outwards; of a foot without weight the heel comes up, of one that taps the ball: radians. */
const OUTWARDS = 0.14;
const HEEL_UP = 0.22;
const TAP = 0.3;
/** Part of the time in which a foot that taps is up. */
const TAPPING = 0.35;
/** Part of a leg's length that it is stretched to at most. */
const REACHED = 0.995;
/** How far ahead of the hips the feet of somebody seated stand, metres. */
const SEATED_AHEAD = 0.42;

/** How far a foot is turned in a moment of the loop, 0 … 1: about its ball with the heel up (above 0), or about its heel with the ball up (below 0), radians. */
function footPitch(loop: Loop, side: Side, phase: number): number {
  const swing = Math.sin(2 * Math.PI * phase) * (side === 'left' ? 1 : -1);
  if (loop === 'shifting') return HEEL_UP * Math.max(0, swing) ** 2;
  if (loop !== 'tapping' || side === 'left') return 0;
  const share = phase / TAPPING;
  return share < 1 ? -TAP * Math.sin(Math.PI * share) ** 2 : 0;
}

/** A foot that stands: its side, the turn of the flat foot, and where the ankle is over it, metres. */
interface Stand {
  leg: Leg;
  flat: quat;
  ankle: vec3;
}

/**
 * Puts calm legs under a capture whose own were not seen: feet stand still on the floor below the hips, turned the way that the body faces most of the time, and the legs reach for them by two-bone IK. The
 * hips keep their height, as far as the legs reach, and their own movement, with a little sway.
 */
export const legLoop: Pass<z.infer<typeof Options>> = {
  name: 'leg-loop',
  title: 'Calm legs',
  about:
    'Stands, shifts its weight, taps or sits in the place of legs that were not seen. The upper body stays as it was captured.',
  options: Options,
  apply(motion: Motion, { loop, apart, pace }): Motion {
    const { skeleton, frames, rate } = motion;
    const legs = legsOf(skeleton);
    if (frames === 0 || legs.length < 2) return motion;
    const out = copyMotion(motion);
    const facing = quat.setAxisAngle(quat.create(), [0, 1, 0], usualFacing(motion));
    const aside = vec3.transformQuat(vec3.create(), [1, 0, 0], facing);
    const stands = legs.map((leg) => standOf(motion, leg, facing, apart / 200, loop === 'seated' ? SEATED_AHEAD : 0));
    const pose = emptyPose(skeleton);
    const chain = chainOf(
      skeleton,
      legs.map(({ end }) => end),
    );
    for (let frame = 0; frame < frames; frame++) {
      const phase = (frame / rate / pace) % 1;
      const sway = SWAY[loop] * Math.sin(2 * Math.PI * phase);
      for (let k = 0; k < 3; k++) out.root[frame * 3 + k] -= sway * aside[k];
      hangLegs(out, frame, legs, facing);
      poseAt(out, frame, pose, chain);
      // Hips that are too high for both feet to stay down come down as far as it takes.
      const drop = Math.max(
        ...stands.map((stand) => pose.positions[stand.leg.upper * 3 + 1] - highestHip(out, pose, stand)),
      );
      if (drop > 0) {
        out.root[frame * 3 + 1] -= drop;
        poseAt(out, frame, pose, chain);
      }
      for (const stand of stands) {
        const pitch = footPitch(loop, stand.leg.side, phase);
        const { turn, place } = turnedFoot(skeleton, stand, pitch);
        reachFor(out, pose, frame, stand.leg, place, turn);
        // Toes stay flat on the floor under a heel that comes up.
        const flat = quat.setAxisAngle(quat.create(), [1, 0, 0], -Math.max(0, pitch));
        if (stand.leg.toes >= 0) writeRotation(out, stand.leg.toes, frame, flat);
      }
    }
    alignSigns(out);
    return out;
  },
};

/** @param aside and @param ahead of where the hips are most of the time, metres. */
function standOf(motion: Motion, leg: Leg, facing: quat, aside: number, ahead: number): Stand {
  const sign = leg.side === 'left' ? 1 : -1;
  const ankle = vec3.transformQuat(vec3.create(), [sign * aside, 0, ahead], facing);
  vec3.add(ankle, ankle, [
    usualPlace(motion, 0),
    restPositions(motion.skeleton)[leg.end * 3 + 1],
    usualPlace(motion, 2),
  ]);
  return { leg, ankle, flat: quat.rotateY(quat.create(), facing, sign * OUTWARDS) };
}

/** How high a leg's hip may be for its foot to stay down, metres. */
function highestHip(motion: Motion, { positions }: Pose, { leg, ankle }: Stand): number {
  const reach = limbLengths(motion, leg).reduce((a, b) => a + b) * REACHED;
  const away = Math.hypot(...[0, 2].map((k) => positions[leg.upper * 3 + k] - ankle[k]));
  return ankle[1] + Math.sqrt(Math.max(0, reach * reach - away * away));
}

/** The turn of a pitched foot, and where its ankle comes to lie: the sole's point that it turns about stays down. */
function turnedFoot(skeleton: Skeleton, { leg, flat, ankle }: Stand, pitch: number): { turn: quat; place: vec3 } {
  const turn = quat.rotateX(quat.create(), flat, pitch);
  const down = solePoints({ skeleton }).find(({ name }) => name === `${leg.side}${pitch > 0 ? 'Toe' : 'Heel'}`);
  const place = vec3.clone(ankle);
  if (pitch === 0 || !down) return { turn, place };
  const rest = restPositions(skeleton);
  const pivot = [0, 1, 2].map((k) => rest[down.joint * 3 + k] + down.offset[k] - rest[leg.end * 3 + k]) as vec3;
  vec3.add(place, place, vec3.transformQuat(vec3.create(), pivot, flat));
  vec3.subtract(place, place, vec3.transformQuat(vec3.create(), pivot, turn));
  return { turn, place };
}
