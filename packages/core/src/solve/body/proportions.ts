import { averageProportions, type Proportions } from '../../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { findCalibrationPose, type CalibrationPose } from './calibration-pose';
import { MARK_OFFSETS, NETWORK_LENGTH } from './joint-offsets';
import { LENGTH_NAMES, likelyLengths, type LengthName, type Lengths } from './likely-lengths';

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
function boneLength(
  observations: BodyObservations,
  bones: readonly Bone[],
  { from, until }: Span,
  share: number,
): number {
  const found: { flat: number; length: number }[] = [];
  const { world, marks } = observations;
  for (let frame = from; frame < until; frame++) {
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

type Span = Pick<CalibrationPose, 'from' | 'until'>;

/** The bones that are measured, and the share of frames that each is taken from in a whole take. */
export const BONES = {
  thigh: [both('Hip', 'Knee'), BEST_SHARE],
  shin: [both('Knee', 'Ankle'), BEST_SHARE],
  torso: [both('Shoulder', 'Hip'), 0.3],
  upperArm: [both('Shoulder', 'Elbow'), BEST_SHARE],
  foreArm: [both('Elbow', 'Wrist'), BEST_SHARE],
  shoulders: [[['leftShoulder', 'rightShoulder']], 0.3],
  hips: [[['leftHip', 'rightHip']], 0.3],
} as const satisfies Record<LengthName, readonly [readonly Bone[], number]>;

/** How long the network makes each bone in a T- or A-pose, against its own in a whole take; from the demo clips and the workshop. */
const POSE_LENGTH: Lengths = {
  thigh: 0.995,
  shin: 0.975,
  torso: 1.025,
  upperArm: 0.945,
  foreArm: 1,
  shoulders: 0.98,
  hips: 0.94,
};
/** What a calibration pose that is square to the camera counts against all other frames together; a turned one shows less. */
const POSE_SHARE = 0.5;
/**
 * How far off lengths are that are measured in a whole take (standard deviations of their logarithms), found on five families of figures
 * (docs/accuracy.md); a calibration pose that is square to the camera takes this share of it away.
 */
const ERRORS: Lengths = {
  thigh: 0.048,
  shin: 0.045,
  torso: 0.06,
  upperArm: 0.1,
  foreArm: 0.09,
  shoulders: 0.085,
  hips: 0.15,
};
const POSE_SURER = 0.4;
/** Seconds to either side of a frame picked by hand that count as the pose. */
const PICKED = 0.3;

/** @param share of the frames, the least foreshortened; that of each bone if left out. */
export function measureBones(observations: BodyObservations, span: Span, share?: number): Lengths {
  return Object.fromEntries(
    Object.entries(BONES).map(([name, [bones, own]]) => [name, boneLength(observations, bones, span, share ?? own)]),
  ) as Lengths;
}

const AVERAGE = averageProportions(1);
/** Trunk and legs together are a nearly constant part of a body's height. */
const LEG_PART = AVERAGE.thigh + AVERAGE.shin - ANKLE_ABOVE;
const TORSO_PART = AVERAGE.torso + AVERAGE.hipDrop;

/** How tall a body of these lengths is in the network's metres; NaN when neither trunk nor legs were seen. */
export function heightOf({ thigh, shin, torso }: Lengths): number {
  const parts = [
    [thigh + shin, LEG_PART],
    [torso, TORSO_PART],
  ].filter(([length]) => Number.isFinite(length));
  return parts.reduce((sum, [value]) => sum + value, 0) / parts.reduce((sum, [, part]) => sum + part, 0);
}

/** Height of somebody of whom nothing is known, metres. */
export const USUAL_HEIGHT = 1.7;

/** A body measured from a take, and what the network's metres have to be multiplied with. */
export interface MeasuredBody {
  proportions: Proportions;
  /** Metres for one metre of the network. */
  scale: number;
  /** False when the height was given. */
  heightEstimated: boolean;
  /** The T- or A-pose that weighs most; null where none was found or another frame was picked. */
  pose: CalibrationPose | null;
}

/**
 * Measures a body's constant proportions from a whole take; a T- or A-pose counts as much as all the rest. The likeliest body is
 * taken that people's proportions and the measured lengths leave; bones that were never seen get average ones.
 * @param height crown to floor in metres when it is known.
 * @param picked a frame that shows the proportions best, instead of the pose that is looked for.
 * @param metric metres for one metre of the network where a depth camera tells it (`metric-scale.ts`), else NaN.
 */
export function measureBody(
  observations: BodyObservations,
  height?: number,
  picked?: number,
  metric = NaN,
): MeasuredBody {
  const whole = measureBones(observations, { from: 0, until: observations.frames });
  const known = heightOf(whole);
  const own = Number.isFinite(known) ? known : USUAL_HEIGHT;
  const pose = picked === undefined ? findCalibrationPose(observations) : null;
  const around = PICKED * observations.rate;
  const span =
    picked === undefined
      ? pose
      : {
          from: Math.max(0, Math.round(picked - around)),
          until: Math.min(observations.frames, Math.round(picked + around) + 1),
        };
  const weight = POSE_SHARE * (pose ? pose.square ** 2 : 1);
  const posed = span && measureBones(observations, span, 1);
  const posedOwn = posed ? heightOf(posed) : NaN;
  const tall = height ?? (metric > 0 ? own * metric : own);
  const p = averageProportions(tall);
  /** A bone as a part of the body's height, in metres of the body. */
  const length = (bone: keyof Lengths): number => {
    const usual = whole[bone] / own;
    const shown = posed ? posed[bone] / posedOwn / POSE_LENGTH[bone] : NaN;
    return tall * (Number.isFinite(shown) ? usual + weight * (shown - usual) : usual);
  };
  const average = lengthsOf(p);
  const measured: Lengths = {
    thigh: length('thigh'),
    shin: length('shin') + ANKLE_ABOVE * tall,
    torso: length('torso'),
    upperArm: length('upperArm') / NETWORK_LENGTH.upperArm,
    foreArm: length('foreArm') / NETWORK_LENGTH.foreArm,
    shoulders: length('shoulders') / NETWORK_LENGTH.shoulders,
    hips: length('hips') / NETWORK_LENGTH.hips,
  };
  const unsure = 1 - (posed ? (POSE_SURER * weight) / POSE_SHARE : 0);
  const errors = Object.fromEntries(LENGTH_NAMES.map((name) => [name, ERRORS[name] * unsure])) as Lengths;
  const { shoulders, hips, torso, ...limbs } = likelyLengths(average, measured, errors);
  return {
    scale: tall / own,
    heightEstimated: height === undefined,
    pose,
    proportions: {
      ...p,
      ...limbs,
      torso: torso - p.hipDrop,
      shoulderHalf: shoulders / 2,
      hipHalf: hips / 2,
    },
  };
}

/** The lengths of a body as they are measured. */
function lengthsOf({ thigh, shin, torso, hipDrop, upperArm, foreArm, shoulderHalf, hipHalf }: Proportions): Lengths {
  return { thigh, shin, torso: torso + hipDrop, upperArm, foreArm, shoulders: 2 * shoulderHalf, hips: 2 * hipHalf };
}
