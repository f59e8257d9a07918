import { SIDES, type Side } from '../motion/humanoid';
import type { Motion } from '../motion/motion';
import { runsWhere } from '../signal/runs';
import { jointIndex } from '../motion/skeleton';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../observe/body';
import { gaussianColumns } from '../signal/gaussian';
import { soleTrack } from './floor';

export type HandName = `${Side}Hand`;

/** A wrist comes to rest below the first of these and does so up to the second: metres over the floor (a palm that lies flat has it at some 0.07), m/s. */
const HEIGHT = [0.12, 0.18] as const;
const SPEED = [0.15, 0.35] as const;
/** A hand that is seen worse than this does not come to rest. */
const LEAST_VISIBILITY = 0.5;
/** Rests are at least so long, seconds; speeds are taken of a path that is smoothed over so many. */
const LEAST = 0.2;
const CALM = 0.05;

/**
 * When hands rest on the floor, with hysteresis on height, speed and how well they are seen: in push-ups, on all fours,
 * getting up. A hand that never does is left out.
 * @param motion with the floor at y = 0.
 * @returns frames: 1 where the hand rests.
 */
export function handRests(motion: Motion, observations: BodyObservations): Partial<Record<HandName, Float64Array>> {
  const rests: Partial<Record<HandName, Float64Array>> = {};
  for (const side of SIDES) {
    const rest = restOf(motion, observations, side);
    if (rest?.includes(1)) rests[`${side}Hand`] = rest;
  }
  return rests;
}

function restOf(motion: Motion, observations: BodyObservations, side: Side): Float64Array | null {
  const wrist = jointIndex(motion.skeleton, `${side}Hand`);
  if (wrist < 0) return null;
  const { frames, rate } = motion;
  const track = soleTrack(motion, [{ joint: wrist, offset: [0, 0, 0] }]);
  const path = gaussianColumns(Float32Array.from(track), 3, CALM * rate);
  const speed = (frame: number): number => {
    const [a, b] = [Math.max(0, frame - 1), Math.min(frames - 1, frame + 1)];
    return (Math.hypot(...[0, 1, 2].map((k) => path[b * 3 + k] - path[a * 3 + k])) * rate) / Math.max(1, b - a);
  };
  const mark = MARK[`${side}Wrist` as MarkName];
  const sure = (frame: number): boolean =>
    isSeen(observations, frame) && observations.marks[(frame * MARK_COUNT + mark) * 3 + 2] >= LEAST_VISIBILITY;
  const rest = new Float64Array(frames);
  for (let frame = 0; frame < frames; frame++) {
    const resting = frame > 0 && rest[frame - 1] === 1 ? 1 : 0;
    const still = path[frame * 3 + 1] < HEIGHT[resting] && speed(frame) < SPEED[resting];
    rest[frame] = still && (resting || sure(frame)) ? 1 : 0;
  }
  const long = new Float64Array(frames);
  for (const [from, until] of runsWhere(frames, (frame) => rest[frame] === 1, Math.ceil(LEAST * rate)))
    long.fill(1, from, until);
  return long;
}
