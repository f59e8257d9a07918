import { vec3, type quat } from 'gl-matrix';
import { z } from 'zod';
import { reachFor } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion, type Pose } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { easedShare } from '../signal/eased-share';
import { joinRuns, sharedRun, widenRun, type Run } from '../signal/runs';
import { setFrames, sliceMotion } from '../signal/slice-motion';
import { keepingFeet } from './drag-pose';
import { handleOf, limbOf, placeIn } from './handles';
import { reachWithBody } from './whole-body';

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
  /** What gives way where the limb alone does not reach. */
  follow: z.enum(['limb', 'body']).default('limb'),
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

/** Tethers agree when none is farther off than this, metres; else they are gone through so often at most. */
const AGREED = 1e-3;
const ROUNDS = 6;

/**
 * Brings joints to where they are tethered, all of a frame in one solve: limbs follow by two-bone IK and their ends keep how they are turned in the world, with the hips the body
 * moves while feet stay; they are gone through again until all agree. Where a limb does not reach and the body gives way, the whole body does (`reachWithBody`). What is out of reach all the
 * same is reached as far as the limb goes.
 * @param at frame of the take that the motion begins with. @returns a new motion; the input where nothing of it is held.
 */
export function holdTethers(motion: Motion, tethers: readonly Tether[], at = 0): Motion {
  const whole: Run = [at, at + motion.frames];
  const held = tethers.filter((tether) => tetherFrames(tether, whole) !== null && jointsOf(motion, tether) !== null);
  const run = held.reduce<Run | null>((all, tether) => joinRuns(all, tetherFrames(tether, whole)), null);
  if (!run) return motion;
  const out = copyMotion(motion);
  for (let frame = run[0]; frame < run[1]; frame++) {
    const now = held.filter((tether) => tetherFrames(tether, [frame, frame + 1]) !== null);
    if (now.length > 0) holdFrame(out, frame - at, frame, now);
  }
  alignSigns(out);
  return out;
}

/** The joint that is held, and the one it is held to (−1 for a place in the world); null where the skeleton hasn't them. */
function jointsOf({ skeleton }: Motion, { joint, to }: Tether): [joint: number, other: number] | null {
  const [held, other] = [jointIndex(skeleton, joint), to === null ? -1 : jointIndex(skeleton, to)];
  return held < 0 || (to !== null && other < 0) ? null : [held, other];
}

/** Where a tether wants its joint in a pose, whatever its ease. */
function wantedPlace(pose: Pose, { place }: Tether, other: number): vec3 {
  const wanted: vec3 = [...place];
  if (other < 0) return wanted;
  vec3.transformQuat(wanted, wanted, turnOf(pose, other));
  return vec3.add(wanted, wanted, placeIn(pose, other));
}

function holdFrame(out: Motion, f: number, frame: number, tethers: readonly Tether[]): void {
  const pose = poseAt(out, f, emptyPose(out.skeleton));
  const goals = tethers
    .map((tether) => {
      const [joint, other] = jointsOf(out, tether)!;
      const turn = pose.rotations.slice(joint * 4, joint * 4 + 4);
      const share = easedShare([tether.from, tether.until], tether.ease, frame);
      return { tether, joint, other, turn, share, before: placeIn(pose, joint) };
    })
    // Limbs go by where the hips have come to.
    .sort((a, b) => Number(b.joint === 0) - Number(a.joint === 0));
  const goalPlace = ({ tether, other, share, before }: (typeof goals)[number]): vec3 =>
    vec3.lerp(vec3.create(), before, wantedPlace(pose, tether, other), share);
  const missed = (goal: (typeof goals)[number]): number => vec3.distance(placeIn(pose, goal.joint), goalPlace(goal));
  for (let round = 0; round < ROUNDS; round++) {
    for (const goal of goals) {
      poseAt(out, f, pose);
      const place = goalPlace(goal);
      if (goal.joint === 0) keepingFeet(out, f, () => out.root.set(place as Float32Array, f * 3));
      else reachFor(out, pose, f, limbOf(out.skeleton, handleOf(goal.tether.joint)), place, goal.turn);
    }
    poseAt(out, f, pose);
    if (goals.every((goal) => missed(goal) < AGREED)) return;
    const giving = goals.filter((goal) => goal.tether.follow === 'body' && missed(goal) >= AGREED);
    if (giving.length === 0) continue;
    const single = sliceMotion(out, f, f + 1);
    const ends = goals.filter(({ joint }) => joint !== 0);
    reachWithBody(single, new Map(ends.map((goal) => [goal.tether.joint, goalPlace(goal)])));
    setFrames(out, single, f);
    poseAt(out, f, pose);
  }
}

/**
 * How far a joint is from where it is tethered at most, in the frames in which it is held whole, metres: what can't be reached.
 * @returns null where none of them lies in the motion.
 */
export function tetherMiss(motion: Motion, tether: Tether): number | null {
  const joints = jointsOf(motion, tether);
  const run = sharedRun([tether.from, tether.until], [0, motion.frames]);
  if (!joints || !run) return null;
  const pose = emptyPose(motion.skeleton);
  let most = 0;
  for (let frame = run[0]; frame < run[1]; frame++) {
    poseAt(motion, frame, pose);
    most = Math.max(most, vec3.distance(placeIn(pose, joints[0]), wantedPlace(pose, tether, joints[1])));
  }
  return most;
}

const turnOf = ({ rotations }: Pose, joint: number): quat => [
  rotations[joint * 4],
  rotations[joint * 4 + 1],
  rotations[joint * 4 + 2],
  rotations[joint * 4 + 3],
];
