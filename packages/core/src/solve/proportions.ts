import { averageProportions, type Proportions } from '../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../observe/body';
import { MARK_OFFSETS, NETWORK_LENGTH } from './joint-offsets';

/** How far above the ankle the network sees it, in body heights. */
const ANKLE_ABOVE = MARK_OFFSETS.Ankle[1];
/** Share of frames, the least foreshortened, that a bone's length is taken from. */
const BEST_SHARE = 0.2;

/** A bone between two marks as a body's own. */
type Bone = readonly [MarkName, MarkName];

/**
 * The length of a bone from its least foreshortened frames: there depth, the network's weak axis,
 * matters least. Left and right count together.
 * @returns metres in the network's own scale; NaN when it was never seen.
 */
function boneLength(observations: BodyObservations, bones: readonly Bone[], share = BEST_SHARE): number {
  const found: { flat: number; length: number }[] = [];
  const { world, marks } = observations;
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    for (const [from, to] of bones) {
      const a = (frame * MARK_COUNT + MARK[from]) * 3;
      const b = (frame * MARK_COUNT + MARK[to]) * 3;
      if (Math.min(marks[a + 2], marks[b + 2]) < 0.5) continue;
      const across = Math.hypot(world[b] - world[a], world[b + 1] - world[a + 1]);
      const length = Math.hypot(across, world[b + 2] - world[a + 2]);
      found.push({ flat: across / length, length });
    }
  }
  if (found.length === 0) return NaN;
  found.sort((a, b) => b.flat - a.flat);
  const best = found
    .slice(0, Math.max(1, Math.round(found.length * share)))
    .map((item) => item.length)
    .sort((a, b) => a - b);
  return best[Math.floor(best.length / 2)];
}

const both = (from: string, to: string): Bone[] =>
  (['left', 'right'] as const).map((side) => [`${side}${from}` as MarkName, `${side}${to}` as MarkName]);

/** A body measured from a take, and what the network's metres have to be multiplied with. */
export interface MeasuredBody {
  proportions: Proportions;
  /** Metres for one metre of the network. */
  scale: number;
  /** False when the height was given. */
  heightEstimated: boolean;
}

/**
 * Measures a body's constant proportions from a whole take. Bones that were never seen get average ones.
 * @param height crown to floor in metres when it is known.
 */
export function measureBody(observations: BodyObservations, height?: number): MeasuredBody {
  const thigh = boneLength(observations, both('Hip', 'Knee'));
  const shin = boneLength(observations, both('Knee', 'Ankle'));
  const torso = boneLength(observations, both('Shoulder', 'Hip'), 0.3);
  const upperArm = boneLength(observations, both('Shoulder', 'Elbow'));
  const foreArm = boneLength(observations, both('Elbow', 'Wrist'));
  const shoulders = boneLength(observations, [['leftShoulder', 'rightShoulder']], 0.3);
  const hips = boneLength(observations, [['leftHip', 'rightHip']], 0.3);
  const average = averageProportions(1);
  const known = (value: number, fallback: number): number => (Number.isFinite(value) ? value : fallback);
  // Trunk and legs together are a nearly constant part of a body's height.
  const legPart = average.thigh + average.shin - ANKLE_ABOVE;
  const torsoPart = average.torso + average.hipDrop;
  const legs = thigh + shin;
  const parts = [
    Number.isFinite(legs) ? [legs, legPart] : null,
    Number.isFinite(torso) ? [torso, torsoPart] : null,
  ].filter((item) => item !== null);
  const own = parts.length
    ? parts.reduce((sum, [value]) => sum + value, 0) / parts.reduce((sum, [, part]) => sum + part, 0)
    : 1.7;
  const tall = height ?? own;
  const scale = tall / own;
  const p = averageProportions(tall);
  const thighOwn = known(thigh * scale, p.thigh);
  const shinOwn = known(shin * scale + ANKLE_ABOVE * tall, p.shin);
  return {
    scale,
    heightEstimated: height === undefined,
    proportions: {
      ...p,
      thigh: thighOwn,
      shin: shinOwn,
      torso: known(torso * scale - average.hipDrop * tall, p.torso),
      shoulderHalf: known((shoulders * scale) / NETWORK_LENGTH.shoulders / 2, p.shoulderHalf),
      hipHalf: known((hips * scale) / NETWORK_LENGTH.hips / 2, p.hipHalf),
      upperArm: known((upperArm * scale) / NETWORK_LENGTH.upperArm, p.upperArm),
      foreArm: known((foreArm * scale) / NETWORK_LENGTH.foreArm, p.foreArm),
    },
  };
}
