import { quat, vec3 } from 'gl-matrix';
import { z } from 'zod';
import { SIDES, type Side } from '../motion/humanoid';
import { limbLengths, limbOfSide, reachFor, type Limb } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, readRotation, writeRotation, type Motion } from '../motion/motion';
import { chainOf, jointIndex, restPose } from '../motion/skeleton';
import { solePoints } from '../ground/floor';
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
/** How far ahead of the hips the feet of somebody seated stand, and their knees before that is solved: metres, radians. */
const SEATED_AHEAD = 0.42;
const KNEES: Record<Loop, number> = { standing: 0.3, shifting: 0.3, tapping: 0.3, seated: 1.5 };

/** What a leg does in a moment of the loop, 0 … 1: how far the foot turns about ball (heel up, above 0) or heel (ball up, below 0), radians. */
function footPitch(loop: Loop, side: Side, phase: number): number {
  const swing = Math.sin(2 * Math.PI * phase) * (side === 'left' ? 1 : -1);
  if (loop === 'shifting') return HEEL_UP * Math.max(0, swing) ** 2;
  if (loop !== 'tapping' || side === 'left') return 0;
  const share = phase / TAPPING;
  return share < 1 ? -TAP * Math.sin(Math.PI * share) ** 2 : 0;
}

/**
 * Puts calm legs under a capture whose own were not seen: feet stand still on the floor below the hips, turned the way that the body faces in the middle of the motion, and the legs reach for them by two-bone IK. The
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
    const legs = SIDES.flatMap((side) => {
      const limb = limbOfSide(skeleton, side, ['UpperLeg', 'LowerLeg', 'Foot']);
      return limb ? [{ side, limb, toes: jointIndex(skeleton, `${side}Toes`) }] : [];
    });
    if (frames === 0 || legs.length < 2) return motion;
    const out = copyMotion(motion);
    const rest = restPose(skeleton);
    const facing = facingOf(motion);
    const [aside, ahead] = [
      vec3.transformQuat(vec3.create(), [1, 0, 0], facing),
      vec3.transformQuat(vec3.create(), [0, 0, 1], facing),
    ];
    const middle = [0, 2].map((k) => median(Array.from({ length: frames }, (_, f) => motion.root[f * 3 + k])));
    const pose = emptyPose(skeleton);
    const chain = chainOf(
      skeleton,
      legs.map(({ limb }) => limb.end),
    );
    const points = solePoints(motion);
    /** Where the ankle is over a flat foot. */
    const standOf = (sign: number, end: number): number[] =>
      [0, 1, 2].map(
        (k) =>
          (k === 1 ? rest.positions[end * 3 + 1] : middle[k / 2]) +
          (sign * apart * aside[k]) / 200 +
          (loop === 'seated' ? SEATED_AHEAD * ahead[k] : 0),
      );
    const highestHip = (limb: Limb, stand: readonly number[]): number => {
      const reach = limbLengths(motion, limb).reduce((a, b) => a + b) * REACHED;
      const away = Math.hypot(...[0, 2].map((k) => pose.positions[limb.upper * 3 + k] - stand[k]));
      return stand[1] + Math.sqrt(Math.max(0, reach * reach - away * away));
    };
    const [turn, own, hips, ankle, pivot]: [quat, quat, quat, vec3, vec3] = [
      quat.create(),
      quat.create(),
      quat.create(),
      vec3.create(),
      vec3.create(),
    ];
    for (let frame = 0; frame < frames; frame++) {
      const phase = (frame / rate / pace) % 1;
      const sway = SWAY[loop] * Math.sin(2 * Math.PI * phase);
      for (let k = 0; k < 3; k++) out.root[frame * 3 + k] -= sway * aside[k];
      readRotation(out, 0, frame, hips);
      // Knees that point ahead tell the plane in which the legs bend.
      for (const { limb } of legs) {
        quat.setAxisAngle(turn, [1, 0, 0], -KNEES[loop] / 2);
        quat.multiply(turn, facing, turn);
        quat.multiply(own, quat.invert(quat.create(), hips), turn);
        writeRotation(out, limb.upper, frame, quat.multiply(own, own, restTurn(skeleton, limb.upper)));
        quat.setAxisAngle(turn, [1, 0, 0], KNEES[loop]);
        writeRotation(out, limb.lower, frame, quat.multiply(turn, turn, restTurn(skeleton, limb.lower)));
      }
      poseAt(out, frame, pose, chain);
      const stands = legs.map(({ side, limb }) => standOf(side === 'left' ? 1 : -1, limb.end));
      // Hips that are too high for both feet to stay down come down as far as it takes.
      const drop = Math.max(
        ...legs.map(({ limb }, i) => pose.positions[limb.upper * 3 + 1] - highestHip(limb, stands[i])),
      );
      if (drop > 0) {
        out.root[frame * 3 + 1] -= drop;
        poseAt(out, frame, pose, chain);
      }
      for (const [i, { side, limb, toes }] of legs.entries()) {
        const sign = side === 'left' ? 1 : -1;
        const pitch = footPitch(loop, side, phase);
        quat.setAxisAngle(turn, [0, 1, 0], sign * OUTWARDS);
        quat.multiply(turn, facing, turn);
        const foot = limb.end * 3;
        const place = [...stands[i]];
        // A foot that is not flat turns about the sole's point that stays down.
        const down = points.find(({ name }) => name === `${side}${pitch > 0 ? 'Toe' : 'Heel'}`);
        if (pitch !== 0 && down) {
          const at = down.joint * 3;
          vec3.set(
            pivot,
            ...([0, 1, 2].map((k) => rest.positions[at + k] + down.offset[k] - rest.positions[foot + k]) as [
              number,
              number,
              number,
            ]),
          );
          vec3.transformQuat(ankle, pivot, turn);
          for (let k = 0; k < 3; k++) place[k] += ankle[k];
          quat.multiply(turn, turn, quat.setAxisAngle(own, [1, 0, 0], pitch));
          vec3.transformQuat(ankle, pivot, turn);
          for (let k = 0; k < 3; k++) place[k] -= ankle[k];
        }
        quat.multiply(turn, turn, rest.rotations.slice(limb.end * 4, limb.end * 4 + 4) as unknown as quat);
        reachFor(out, pose, frame, limb, place, turn);
        // Toes stay flat on the floor under a heel that comes up.
        if (toes >= 0) {
          quat.setAxisAngle(own, [1, 0, 0], -Math.max(0, pitch));
          writeRotation(out, toes, frame, quat.multiply(own, own, restTurn(skeleton, toes)));
        }
      }
    }
    alignSigns(out);
    return out;
  },
};

const restTurn = ({ joints }: Motion['skeleton'], joint: number): quat =>
  (joints[joint].rest ?? [0, 0, 0, 1]) as unknown as quat;

/** The turn about the vertical that faces the way the hips do, in the mean over all frames. */
function facingOf(motion: Motion): quat {
  const turn = quat.create();
  const [way, sum] = [vec3.create(), vec3.create()];
  for (let frame = 0; frame < motion.frames; frame++) {
    readRotation(motion, 0, frame, turn);
    vec3.add(sum, sum, vec3.transformQuat(way, [0, 0, 1], turn));
  }
  return quat.setAxisAngle(turn, [0, 1, 0], Math.atan2(sum[0], sum[2]));
}

function median(values: number[]): number {
  values.sort((a, b) => a - b);
  return values[Math.floor(values.length / 2)];
}
