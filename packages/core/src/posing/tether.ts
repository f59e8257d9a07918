import { vec3, type quat } from 'gl-matrix';
import { z } from 'zod';
import { reachFor } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion, type Pose } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { easedShare } from '../signal/eased-share';
import { sharedRun, widenRun, type Run } from '../signal/runs';
import { keepingFeet } from './drag-pose';
import { handleOf, limbOf, placeIn } from './handles';

/** What can be tethered: ends of limbs, and the hips. */
export const TETHERED = ['hips', 'leftHand', 'rightHand', 'leftFoot', 'rightFoot'] as const;
export type Tethered = (typeof TETHERED)[number];

/** Holds a hand, a foot or the hips to a place, or to another joint, for a while. */
export const Tether = z.object({
  joint: z.enum(TETHERED),
  /** The joint that it is held to; null is a place in the world. */
  to: z.string().max(80).nullable(),
  /** Where it is held: metres in that joint's axes, or in the world. */
  place: z.tuple([z.number(), z.number(), z.number()]),
  /** Frames from … until − 1. */
  from: z.number().int(),
  until: z.number().int(),
  /** Frames over which it comes in and goes out beside that. */
  ease: z.number().int().min(0).max(60).default(5),
});
export type Tether = z.infer<typeof Tether>;

/** Frames of some that a tether may change; null where it changes none. */
export const tetherFrames = ({ from, until, ease }: Tether, within: Run): Run | null =>
  until > from ? sharedRun(widenRun([from, until], ease), within) : null;

/** Where a joint is in a frame as a tether would tell it, so that it is held just there. */
export function placeNow(motion: Motion, joint: Tethered, to: string | null, frame: number): Tether['place'] {
  const pose = poseAt(motion, frame, emptyPose(motion.skeleton));
  const here = placeIn(pose, jointIndex(motion.skeleton, joint));
  const other = to === null ? -1 : jointIndex(motion.skeleton, to);
  if (other < 0) return here;
  const away = vec3.subtract(vec3.create(), here, placeIn(pose, other));
  const [x, y, z, w] = turnOf(pose, other);
  vec3.transformQuat(away, away, [-x, -y, -z, w]);
  return [away[0], away[1], away[2]];
}

/**
 * Brings a joint to where it is tethered: a limb follows by two-bone IK and its end keeps how it is turned in the world; with the hips the body moves, and feet stay.
 * What is out of reach is reached as far as the limb goes.
 * @param at frame of the take that the motion begins with. @returns a new motion; the input where nothing of it is held.
 */
export function holdTether(motion: Motion, tether: Tether, at = 0): Motion {
  const run = tetherFrames(tether, [at, at + motion.frames]);
  const joint = jointIndex(motion.skeleton, tether.joint);
  const other = tether.to === null ? -1 : jointIndex(motion.skeleton, tether.to);
  if (!run || joint < 0 || (tether.to !== null && other < 0)) return motion;
  const out = copyMotion(motion);
  const pose = emptyPose(motion.skeleton);
  for (let frame = run[0] - at; frame < run[1] - at; frame++) {
    const share = easedShare([tether.from, tether.until], tether.ease, frame + at);
    poseAt(out, frame, pose);
    const wanted: vec3 = [...tether.place];
    if (other >= 0) {
      vec3.transformQuat(wanted, wanted, turnOf(pose, other));
      vec3.add(wanted, wanted, placeIn(pose, other));
    }
    const place = vec3.lerp(vec3.create(), placeIn(pose, joint), wanted, share);
    if (joint === 0) keepingFeet(out, frame, () => out.root.set(place as Float32Array, frame * 3));
    else {
      const limb = limbOf(out.skeleton, handleOf(tether.joint));
      reachFor(out, pose, frame, limb, place, pose.rotations.slice(limb.end * 4, limb.end * 4 + 4));
    }
  }
  alignSigns(out);
  return out;
}

const turnOf = ({ rotations }: Pose, joint: number): quat => [
  rotations[joint * 4],
  rotations[joint * 4 + 1],
  rotations[joint * 4 + 2],
  rotations[joint * 4 + 3],
];
