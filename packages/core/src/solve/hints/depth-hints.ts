import { vec3 } from 'gl-matrix';
import { z } from 'zod';
import { MARK, MARK_COUNT, isSeen, type BodyObservations, type MarkName } from '../../observe/body';
import { inverted } from '../../signal/solve-linear';
import { CARRIED_MARKS } from '../network/carried-marks';
import { DEPTH_ERRORS } from './depth-errors';

/** Marks whose depth a person can tell, with the joints at them: ends and middles of limbs, and the shoulders, by which the trunk leans and turns. */
export const HINTED_JOINTS = {
  leftShoulder: 'leftUpperArm',
  rightShoulder: 'rightUpperArm',
  leftElbow: 'leftLowerArm',
  rightElbow: 'rightLowerArm',
  leftWrist: 'leftHand',
  rightWrist: 'rightHand',
  leftKnee: 'leftLowerLeg',
  rightKnee: 'rightLowerLeg',
  leftAnkle: 'leftFoot',
  rightAnkle: 'rightFoot',
} as const satisfies Partial<Record<MarkName, string>>;
export type HintedMark = keyof typeof HINTED_JOINTS;
export const HINTED_MARKS = Object.keys(HINTED_JOINTS) as HintedMark[];

/** What a person says of a mark's depth in a frame. */
export const DepthHint = z.object({
  mark: z.enum(HINTED_MARKS),
  /** Frame of the take. */
  frame: z.number().int(),
  /** How much nearer to the camera than the middle of the hips it is, along the camera's own axis, metres. */
  nearer: z.number().min(-2).max(2),
});
export type DepthHint = z.infer<typeof DepthHint>;

/** What hints say of a mark in a frame, near and far from where they were given. */
export interface HintedDepth {
  mark: HintedMark;
  /** Metres nearer to the camera than the middle of the hips. */
  nearer: number;
  /** How much of what is not known of it they tell: 1 where it was given, near 0 far away. */
  told: number;
}

/**
 * The part of an error that stays over the whole take; the rest fades with time (to 1/e in so many seconds) and with the pose (to 1/e where marks
 * have moved by so many metres against the hips). Chosen on populations 1 and 2, the errors of each builder told by those of the others.
 */
const LASTING = 0.1;
const WHILE = 1.5;
const ALIKE = 0.15;
/** What `DEPTH_ERRORS` are counted in, body heights squared. */
const ERROR_UNIT = 1e-4;
/** How well a person tells a depth, metres. */
const TOLD_TO = 0.02;

/**
 * What depth hints say of each frame. A hint tells by how much the network's depth of that mark is wrong. Its errors go together: a trunk that leans takes shoulders and arms along, one knee
 * the other; and they last while the pose stays alike. So the likeliest errors of all marks in all frames follow from those that are told
 * (Gaussian process regression; C. Rasmussen and C. Williams, 2006, chapter 2).
 * @param observations with the network's points, corrected as far as they are.
 * @param body metres for one metre of the network, and the body's height.
 * @returns a list for each frame.
 */
export function hintedDepths(
  observations: BodyObservations,
  hints: readonly DepthHint[],
  { scale, height }: { scale: number; height: number },
): (readonly HintedDepth[])[] {
  const { frames } = observations;
  const seen = (frame: number): boolean => frame >= 0 && frame < frames && isSeen(observations, frame);
  const given = hints
    .filter(({ frame }) => seen(frame))
    .map((hint) => ({ ...hint, m: HINTED_MARKS.indexOf(hint.mark) }));
  if (given.length === 0) return Array.from({ length: frames }, () => []);
  const alike = likeness(observations, scale);
  const together = (a: number, b: number): number => DEPTH_ERRORS[a][b] * ERROR_UNIT * height ** 2;
  const inverse = inverted(
    given.map((one, i) =>
      given.map((other, k) => alike(one.frame, other.frame) * together(one.m, other.m) + (i === k ? TOLD_TO ** 2 : 0)),
    ),
  );
  const off = given.map(({ frame, mark, nearer }) => nearer - placeOf(observations, frame, mark)[2] * scale);
  return Array.from({ length: frames }, (_, frame) => {
    if (!seen(frame)) return [];
    const near = given.map((one) => alike(frame, one.frame));
    return HINTED_MARKS.map((mark, m) => {
      const shared = near.map((value, i) => value * together(m, given[i].m));
      const weights = inverse.map((row) => dot(row, shared));
      return {
        mark,
        nearer: placeOf(observations, frame, mark)[2] * scale + dot(weights, off),
        told: dot(weights, shared) / together(m, m),
      };
    });
  });
}

/** How far the network's errors in two frames are the same: 1 in one and the same. */
function likeness(observations: BodyObservations, scale: number): (a: number, b: number) => number {
  /** Mean square by which marks have moved against the hips. */
  const moved = (a: number, b: number): number =>
    HINTED_MARKS.reduce(
      (sum, mark) => sum + vec3.squaredDistance(placeOf(observations, a, mark), placeOf(observations, b, mark)),
      0,
    ) *
    (scale ** 2 / HINTED_MARKS.length);
  return (a, b) =>
    LASTING + (1 - LASTING) * Math.exp(-Math.abs(a - b) / observations.rate / WHILE - moved(a, b) / ALIKE ** 2);
}

/** Where the network sees a mark. */
function placeOf({ world }: BodyObservations, frame: number, mark: MarkName): vec3 {
  const at = (frame * MARK_COUNT + MARK[mark]) * 3;
  return [world[at], world[at + 1], world[at + 2]];
}

const dot = (a: readonly number[], b: readonly number[]): number => a.reduce((sum, value, i) => sum + value * b[i], 0);

/** Hints of some frames, counted from the first of them. */
export const hintsWithin = (hints: readonly DepthHint[], from: number, until: number): DepthHint[] =>
  hints.filter(({ frame }) => frame >= from && frame < until).map((hint) => ({ ...hint, frame: hint.frame - from }));

/** The network's points, moved to where hints say that they are; feet go along with ankles, hands with wrists, the head with the shoulders. */
export function withHints(
  observations: BodyObservations,
  hinted: readonly (readonly HintedDepth[])[],
  scale: number,
): BodyObservations {
  const world = observations.world.slice();
  hinted.forEach((list, frame) => {
    if (list.length === 0) return;
    const depth = (mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3 + 2;
    const shifts = new Map<MarkName, number>(
      list.map(({ mark, nearer }) => [mark, nearer / scale - observations.world[depth(mark)]]),
    );
    for (const [mark, by] of shifts) world[depth(mark)] += by;
    for (const { mark, by } of CARRIED_MARKS)
      world[depth(mark)] += by.reduce((sum, carrier) => sum + (shifts.get(carrier) ?? 0) / by.length, 0);
  });
  return { ...observations, world };
}
