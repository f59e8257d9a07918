import { multiply, rotate, turnBetweenLines } from '../motion/flat-turns';
import { SIDES } from '../motion/humanoid';
import { limbLengths, limbOfSide, reachFor, type Limb } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion, type Pose } from '../motion/motion';
import { chainOf } from '../motion/skeleton';
import { coverReach, coverSmoothly } from '../signal/cover';
import { soleTrack } from './floor';
import { holdsOf, type Hold } from './holds';
import { plantedPoints, type Plant, type PlantedPart } from './plants';

/** A leg is bent at least so much when the hips can come down for it: part of its whole length. */
const NATURAL_REACH = 0.995;
/** Spread of a lowering of the hips, seconds. */
const LOWERING = 0.08;

/** Frames to either side that the hips are lowered by, at most. */
const loweringFrames = (rate: number): number => Math.ceil(LOWERING * rate);

/** Frames beside a plant and its ease that it may change: the hips come down around it. @param rate frames a second. */
export const plantReach = (rate: number): number => coverReach(loweringFrames(rate));

/** A leg whose foot can be held. */
interface HeldFoot {
  limb: Limb;
  heel: Hold;
  toe: Hold;
  /** Which point of the track the heel is; the ball of the foot is the one after it. */
  point: number;
}

interface HeldHand {
  limb: Limb;
  hold: Hold;
}

/**
 * Holds planted heels, balls of the feet and hands where they are planted: the foot is brought there as a
 * whole, the leg follows by two-bone IK in the plane it bends in, and where it would have to stretch the
 * hips come down smoothly. Beside a plant the hold eases in and out. The input is left alone.
 */
export function holdPlants(motion: Motion, plants: readonly Plant[]): Motion {
  if (plants.length === 0) return motion;
  const points = plantedPoints(motion);
  const track = soleTrack(motion, points);
  const holds = holdsOf(motion.frames, points, plants, track);
  const out = copyMotion(motion);
  const feet = SIDES.flatMap((side): HeldFoot[] => {
    const limb = limbOfSide(motion.skeleton, side, ['UpperLeg', 'LowerLeg', 'Foot']);
    const [heel, toe]: PlantedPart[] = [`${side}Heel`, `${side}Toe`];
    const point = points.findIndex(({ name }) => name === heel);
    return limb && points[point + 1]?.name === toe ? [{ limb, heel: holds[heel], toe: holds[toe], point }] : [];
  });
  const hands = SIDES.flatMap((side): HeldHand[] => {
    const limb = limbOfSide(motion.skeleton, side, ['UpperArm', 'LowerArm', 'Hand']);
    return limb ? [{ limb, hold: holds[`${side}Hand`] }] : [];
  });
  const lowered = lowerHips(out, feet, track, points.length);
  const chain = chainOf(
    motion.skeleton,
    [...feet, ...hands].map(({ limb }) => limb.end),
  );
  const pose = emptyPose(motion.skeleton);
  for (let frame = 0; frame < motion.frames; frame++) {
    let posed = false;
    for (const foot of feet) {
      const held = isHeld(foot, frame);
      const lift = held ? 0 : sunkBy(lowered[frame], track, frame * points.length + foot.point);
      if (!held && lift === 0) continue;
      if (!posed) poseAt(out, frame, pose, chain);
      posed = true;
      if (held) {
        footTarget(foot, frame, track, points.length, pose.positions, lowered[frame]);
        multiply(turn, 0, pose.rotations, foot.limb.end * 4, turn, 0);
        reachFor(out, pose, frame, foot.limb, place, turn);
      } else raise(out, pose, frame, foot.limb, lift);
    }
    for (const { limb, hold } of hands) {
      const weight = hold.weights[frame];
      if (weight === 0) continue;
      if (!posed) poseAt(out, frame, pose, chain);
      posed = true;
      reachForHold(out, pose, frame, limb, hold, weight);
    }
  }
  alignSigns(out);
  return out;
}

const isHeld = ({ heel, toe }: HeldFoot, frame: number): boolean => heel.weights[frame] > 0 || toe.weights[frame] > 0;

/** By how much a foot that nothing holds came below the floor only because the hips came down. @param heel which row of the track its heel is. */
function sunkBy(lowered: number, track: Float64Array, heel: number): number {
  const low = Math.min(track[heel * 3 + 1], track[heel * 3 + 4]);
  return Math.max(0, lowestFor(low, lowered) - low);
}

/** How low a point may be brought: to the floor, or to where it was before the hips came down. */
const lowestFor = (height: number, lowered: number): number => Math.min(0, height + lowered);

/** Raises the end of a limb as it is. */
function raise(motion: Motion, pose: Pose, frame: number, limb: Limb, by: number): void {
  for (let k = 0; k < 3; k++) place[k] = pose.positions[limb.end * 3 + k] + (k === 1 ? by : 0);
  for (let k = 0; k < 4; k++) turn[k] = pose.rotations[limb.end * 4 + k];
  reachFor(motion, pose, frame, limb, place, turn);
}

function reachForHold(motion: Motion, pose: Pose, frame: number, limb: Limb, hold: Hold, weight: number): void {
  for (let k = 0; k < 3; k++) {
    const here = pose.positions[limb.end * 3 + k];
    place[k] = here + weight * (hold.places[frame * 3 + k] - here);
  }
  for (let k = 0; k < 4; k++) turn[k] = pose.rotations[limb.end * 4 + k];
  reachFor(motion, pose, frame, limb, place, turn);
}

/** Where a held foot's ankle goes, and how the foot turns to get there. */
const place = new Float64Array(3);
const turn = new Float64Array(4);
const was = new Float64Array(3);
const goes = new Float64Array(3);
const arm = new Float64Array(3);

/** Fills `place` and `turn`. @param lowered by how much the hips came down. */
function footTarget(
  { heel, toe, point, limb }: HeldFoot,
  frame: number,
  track: Float64Array,
  points: number,
  positions: ArrayLike<number>,
  lowered = 0,
): void {
  const h = (frame * points + point) * 3;
  const t = h + 3;
  const [wh, wt] = [heel.weights[frame], toe.weights[frame]];
  const firmer = (wt * wt) / (wh * wh + wt * wt);
  let [wasSquare, goesSquare] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const heelOff = wh > 0 ? heel.places[frame * 3 + k] - track[h + k] : 0;
    const toeOff = wt > 0 ? toe.places[frame * 3 + k] - track[t + k] : 0;
    // What is not held itself goes along with what is.
    let heelTo = track[h + k] + wh * heelOff + (1 - wh) * wt * toeOff;
    let toeTo = track[t + k] + wt * toeOff + (1 - wt) * wh * heelOff;
    if (k === 1) {
      heelTo = Math.max(heelTo, lowestFor(track[h + 1], lowered));
      toeTo = Math.max(toeTo, lowestFor(track[t + 1], lowered));
    }
    was[k] = track[t + k] - track[h + k];
    goes[k] = toeTo - heelTo;
    wasSquare += was[k] * was[k];
    goesSquare += goes[k] * goes[k];
    place[k] = heelTo + (toeTo - heelTo) * firmer;
    arm[k] = positions[limb.end * 3 + k] - (track[h + k] + was[k] * firmer);
  }
  const [a, b] = [Math.sqrt(wasSquare) || 1, Math.sqrt(goesSquare) || 1];
  turnBetweenLines(was[0] / a, was[1] / a, was[2] / a, goes[0] / b, goes[1] / b, goes[2] / b, turn);
  rotate(turn, 0, arm[0], arm[1], arm[2], arm);
  for (let k = 0; k < 3; k++) place[k] += arm[k];
}

/** Brings the hips down where a held foot is out of a leg's natural reach, smoothly. Changes the motion in place. @returns by how much, frame by frame. */
function lowerHips(motion: Motion, feet: readonly HeldFoot[], track: Float64Array, points: number): Float32Array {
  const pose = emptyPose(motion.skeleton);
  const chain = chainOf(
    motion.skeleton,
    feet.map(({ limb }) => limb.end),
  );
  const lengths = feet.map(({ limb }) => limbLengths(motion, limb).reduce((a, b) => a + b) * NATURAL_REACH);
  const needed = new Float64Array(motion.frames);
  for (let frame = 0; frame < motion.frames; frame++) {
    let posed = false;
    for (let i = 0; i < feet.length; i++) {
      if (!isHeld(feet[i], frame)) continue;
      if (!posed) poseAt(motion, frame, pose, chain);
      posed = true;
      const { upper, end } = feet[i].limb;
      const { positions } = pose;
      footTarget(feet[i], frame, track, points, positions);
      const now = Math.hypot(
        positions[upper * 3] - positions[end * 3],
        positions[upper * 3 + 1] - positions[end * 3 + 1],
        positions[upper * 3 + 2] - positions[end * 3 + 2],
      );
      // Nobody is made to bend a knee that was straight before.
      const reach = Math.max(lengths[i], now);
      const [x, z] = [place[0] - positions[upper * 3], place[2] - positions[upper * 3 + 2]];
      const top = place[1] + Math.sqrt(Math.max(0, reach * reach - x * x - z * z));
      needed[frame] = Math.max(needed[frame], positions[upper * 3 + 1] - top);
    }
  }
  const wide = loweringFrames(motion.rate);
  const smooth = coverSmoothly(needed, wide);
  for (let frame = 0; frame < motion.frames; frame++) {
    motion.root[frame * 3 + 1] -= smooth[frame];
    // What is not held goes down with the hips; the track is told of it.
    for (let p = 0; p < points; p++) track[(frame * points + p) * 3 + 1] -= smooth[frame];
  }
  return smooth;
}
