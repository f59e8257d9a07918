import { quat, vec3 } from 'gl-matrix';
import { SIDES, type Side } from '../motion/humanoid';
import { limbLengths, reachFor, type Limb } from '../motion/limb-ik';
import { alignSigns, copyMotion, emptyPose, poseAt, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { gaussianColumns } from '../passes/gaussian';
import { soleTrack } from './floor';
import { plantedPoints, type Plant, type PlantedPart } from './plants';

/** A leg is bent at least so much when the hips can come down for it: part of its whole length. */
const NATURAL_REACH = 0.995;
/** Spread of a lowering of the hips, seconds. */
const LOWERING = 0.08;

/** How firmly a part is held in a frame, 0 … 1, and where. */
interface Hold {
  weights: Float64Array;
  /** frames × 3. */
  places: Float64Array;
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
  const holds = holdsOf(motion, plants, track);
  const out = copyMotion(motion);
  const feet = SIDES.map((side) => footOf(motion, side)).filter((foot) => foot !== null);
  const hands = SIDES.map((side) => handOf(motion, side)).filter((hand) => hand !== null);
  lowerHips(out, feet, holds, track);
  const pose = emptyPose(motion.skeleton);
  for (let frame = 0; frame < motion.frames; frame++) {
    const [heldFeet, heldHands] = [feet, hands].map((limbs) =>
      limbs.filter(({ parts }) => parts.some((part) => (holds.get(part)?.weights[frame] ?? 0) > 0)),
    );
    if (heldFeet.length + heldHands.length === 0) continue;
    poseAt(out, frame, pose);
    for (const foot of heldFeet) {
      const target = footTarget(foot.parts, holds, track, points.length, frame, pose.positions, foot.limb.end);
      const world = turnOf(pose.rotations, foot.limb.end);
      reachFor(out, pose, frame, foot.limb, target.place, quat.multiply(world, target.turn, world));
    }
    for (const { limb, parts } of heldHands) {
      const hold = holds.get(parts[0]) as Hold;
      const world = turnOf(pose.rotations, limb.end);
      const here = placeOf(pose.positions, limb.end);
      const place = vec3.lerp([0, 0, 0], here, placeOf(hold.places, frame), hold.weights[frame]);
      reachFor(out, pose, frame, limb, place, world);
    }
  }
  alignSigns(out);
  return out;
}

const placeOf = (values: ArrayLike<number>, i: number): vec3 => [values[i * 3], values[i * 3 + 1], values[i * 3 + 2]];
const turnOf = (values: ArrayLike<number>, i: number): quat => [
  values[i * 4],
  values[i * 4 + 1],
  values[i * 4 + 2],
  values[i * 4 + 3],
];

interface HeldLimb {
  limb: Limb;
  parts: PlantedPart[];
}

function limbOf(motion: Motion, names: readonly string[], parts: PlantedPart[]): HeldLimb | null {
  const [upper, lower, end] = names.map((name) => jointIndex(motion.skeleton, name));
  return Math.min(upper, lower, end) < 0 ? null : { limb: { upper, lower, end }, parts };
}

const footOf = (motion: Motion, side: Side): HeldLimb | null =>
  limbOf(
    motion,
    ['UpperLeg', 'LowerLeg', 'Foot'].map((part) => side + part),
    [`${side}Heel`, `${side}Toe`],
  );
const handOf = (motion: Motion, side: Side): HeldLimb | null =>
  limbOf(
    motion,
    ['UpperArm', 'LowerArm', 'Hand'].map((part) => side + part),
    [`${side}Hand`],
  );

/** Weights and places of every part that has plants. */
function holdsOf(motion: Motion, plants: readonly Plant[], track: Float64Array): Map<PlantedPart, Hold> {
  const points = plantedPoints(motion);
  const spans = plants
    .map((plant) => ({ ...plant, until: Math.min(plant.until, motion.frames) }))
    .filter((plant) => plant.until > plant.from && points.some((point) => point.name === plant.part))
    .map((plant) => ({ plant, place: plant.place ? ([...plant.place] as vec3) : middleOf(plant) }));
  // Heel and ball of one foot that stand together stand as far apart as the foot is long.
  for (const heel of spans.filter(({ plant }) => plant.part.endsWith('Heel'))) {
    const side = heel.plant.part.slice(0, -4);
    const together = (plant: Plant): number =>
      Math.min(plant.until, heel.plant.until) - Math.max(plant.from, heel.plant.from);
    const toe = spans
      .filter(({ plant }) => plant.part === `${side}Toe` && together(plant) > 0)
      .sort((a, b) => together(b.plant) - together(a.plant))[0];
    if (!toe || heel.plant.place) continue;
    const [h, t] = [`${side}Heel`, `${side}Toe`].map((name) => points.findIndex((point) => point.name === name));
    const length = vec3.distance(placeOf(track, h), placeOf(track, t));
    const back = vec3.subtract([0, 0, 0], heel.place, toe.place);
    vec3.scaleAndAdd(heel.place, toe.place, vec3.normalize(back, back), length);
  }
  const holds = new Map<PlantedPart, Hold>();
  for (const { plant, place } of spans) {
    const hold = holds.get(plant.part) ?? {
      weights: new Float64Array(motion.frames),
      places: new Float64Array(motion.frames * 3),
    };
    holds.set(plant.part, hold);
    for (let frame = Math.max(0, plant.from - plant.ease); frame < plant.until + plant.ease; frame++) {
      if (frame >= motion.frames) break;
      const outside = Math.max(plant.from - frame, frame - plant.until + 1, 0) / (plant.ease + 1);
      const weight = 1 - outside * outside * (3 - 2 * outside);
      const share = weight / (weight + hold.weights[frame]);
      for (let k = 0; k < 3; k++) hold.places[frame * 3 + k] += (place[k] - hold.places[frame * 3 + k]) * (share || 0);
      hold.weights[frame] = Math.max(hold.weights[frame], weight);
    }
  }
  return holds;

  /** Where the part was in the middle of its span, by the median of each axis; feet on the floor. */
  function middleOf({ part, from, until }: Plant): vec3 {
    const p = points.findIndex((point) => point.name === part);
    const median = (axis: number): number => {
      const values = Array.from({ length: until - from }, (_, i) => track[((from + i) * points.length + p) * 3 + axis]);
      return values.sort((a, b) => a - b)[values.length >> 1];
    };
    return [median(0), part.endsWith('Hand') ? median(1) : 0, median(2)];
  }
}

/** Where a held foot's ankle goes, and how the foot turns to get there. */
function footTarget(
  [heel, toe]: readonly PlantedPart[],
  holds: ReadonlyMap<PlantedPart, Hold>,
  track: Float64Array,
  count: number,
  frame: number,
  positions: ArrayLike<number>,
  ankle: number,
): { place: vec3; turn: quat } {
  const index = heel.startsWith('left') ? 0 : 2;
  const [h, t] = [0, 1].map((i) => placeOf(track, frame * count + index + i));
  const [holdH, holdT] = [holds.get(heel), holds.get(toe)];
  const [wh, wt] = [holdH?.weights[frame] ?? 0, holdT?.weights[frame] ?? 0];
  const toPlace = (hold: Hold | undefined, weight: number, from: vec3): vec3 =>
    hold && weight > 0 ? vec3.subtract([0, 0, 0], placeOf(hold.places, frame), from) : [0, 0, 0];
  const [dh, dt] = [toPlace(holdH, wh, h), toPlace(holdT, wt, t)];
  // What is not held itself goes along with what is.
  const moved = (at: vec3, own: vec3, weight: number, other: vec3, otherWeight: number): vec3 =>
    [0, 1, 2].map((k) => at[k] + weight * own[k] + (1 - weight) * otherWeight * other[k]) as vec3;
  const [heelTo, toeTo] = [moved(h, dh, wh, dt, wt), moved(t, dt, wt, dh, wh)];
  const line = (a: vec3, b: vec3): vec3 => vec3.normalize([0, 0, 0], vec3.subtract([0, 0, 0], b, a));
  const turn = quat.rotationTo([0, 0, 0, 1], line(h, t), line(heelTo, toeTo));
  const firmer = (wt * wt) / (wh * wh + wt * wt);
  const place = vec3.lerp([0, 0, 0], heelTo, toeTo, firmer);
  const arm = vec3.subtract([0, 0, 0], placeOf(positions, ankle), vec3.lerp([0, 0, 0], h, t, firmer));
  return { place: vec3.add(place, place, vec3.transformQuat(arm, arm, turn)), turn };
}

/** Brings the hips down where a held foot is out of a leg's natural reach, smoothly. Changes the motion in place. */
function lowerHips(
  motion: Motion,
  feet: readonly HeldLimb[],
  holds: ReadonlyMap<PlantedPart, Hold>,
  track: Float64Array,
): void {
  const points = plantedPoints(motion).length;
  const pose = emptyPose(motion.skeleton);
  const needed = new Float64Array(motion.frames);
  for (let frame = 0; frame < motion.frames; frame++) {
    const held = feet.filter(({ parts }) => parts.some((part) => (holds.get(part)?.weights[frame] ?? 0) > 0));
    if (held.length === 0) continue;
    poseAt(motion, frame, pose);
    for (const { limb, parts } of held) {
      const { place } = footTarget(parts, holds, track, points, frame, pose.positions, limb.end);
      const hip = placeOf(pose.positions, limb.upper);
      const [a, b] = limbLengths(motion, limb);
      const now = vec3.distance(hip, placeOf(pose.positions, limb.end));
      // Nobody is made to bend a knee that was straight before.
      const reach = Math.max((a + b) * NATURAL_REACH, now);
      const flat = Math.hypot(place[0] - hip[0], place[2] - hip[2]);
      const top = place[1] + Math.sqrt(Math.max(0, reach * reach - flat * flat));
      needed[frame] = Math.max(needed[frame], hip[1] - top);
    }
  }
  const wide = Math.ceil(LOWERING * motion.rate);
  const most = Float32Array.from(needed, (_, frame) => {
    let value = 0;
    for (let k = Math.max(0, frame - wide); k <= Math.min(motion.frames - 1, frame + wide); k++)
      value = Math.max(value, needed[k]);
    return value;
  });
  const smooth = gaussianColumns(most, 1, wide / 2);
  for (let frame = 0; frame < motion.frames; frame++) {
    motion.root[frame * 3 + 1] -= smooth[frame];
    // What is not held goes down with the hips; the track is told of it.
    for (let p = 0; p < points; p++) track[(frame * points + p) * 3 + 1] -= smooth[frame];
  }
}
