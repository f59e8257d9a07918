import { z } from 'zod';
import { MARK, MARK_COUNT, isSeen, type BodyObservations, type MarkName } from '../../observe/body';

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
  mark: MarkName;
  /** Metres nearer to the camera than the middle of the hips. */
  nearer: number;
  /** 1 where it was given, less where the pose is another one. */
  weight: number;
}

/** How far limbs may point elsewhere until a hint is half forgotten, metres of the mark against the hips; and how far away in time, seconds. Chosen on two builders of a population, measured on the others. */
const ALIKE = 0.1;
const WHILE = 0.4;
/** Hints that count less than this are left out. */
const LEAST = 0.05;

/**
 * What depth hints say of each frame. A hint tells by how much the network's depth of that mark is wrong; that holds on while the pose stays alike (a Gaussian of how far the mark has
 * moved against the hips, as the network sees it), and fades with time.
 * @param observations with the network's points, corrected as far as they are. @param scale metres for one metre of the network.
 * @returns a list for each frame.
 */
export function hintedDepths(
  observations: BodyObservations,
  hints: readonly DepthHint[],
  scale: number,
): (readonly HintedDepth[])[] {
  const { frames, rate, world } = observations;
  const out = Array.from({ length: frames }, (): HintedDepth[] => []);
  const place = (frame: number, mark: MarkName, k: number): number =>
    world[(frame * MARK_COUNT + MARK[mark]) * 3 + k] * scale;
  for (const mark of HINTED_MARKS) {
    const own = hints.filter(
      (hint) => hint.mark === mark && hint.frame >= 0 && hint.frame < frames && isSeen(observations, hint.frame),
    );
    if (own.length === 0) continue;
    for (let frame = 0; frame < frames; frame++) {
      if (!isSeen(observations, frame)) continue;
      let [sum, shift, most] = [0, 0, 0];
      for (const hint of own) {
        const moved = Math.hypot(...[0, 1, 2].map((k) => place(frame, mark, k) - place(hint.frame, mark, k)));
        const away = (frame - hint.frame) / rate;
        const weight = Math.exp(-Math.LN2 * ((moved / ALIKE) ** 2 + (away / WHILE) ** 2));
        sum += weight;
        shift += weight * (hint.nearer - place(hint.frame, mark, 2));
        most = Math.max(most, weight);
      }
      if (most > LEAST) out[frame].push({ mark, nearer: place(frame, mark, 2) + shift / sum, weight: most });
    }
  }
  return out;
}

/** Hints of some frames, counted from the first of them. */
export const hintsWithin = (hints: readonly DepthHint[], from: number, until: number): DepthHint[] =>
  hints.filter(({ frame }) => frame >= from && frame < until).map((hint) => ({ ...hint, frame: hint.frame - from }));

/** What each mark hangs on, the nearest first: it follows the nearest one whose depth is said. */
const HANGS_ON: Partial<Record<MarkName, readonly MarkName[]>> = {
  leftElbow: ['leftShoulder'],
  leftWrist: ['leftElbow', 'leftShoulder'],
  leftAnkle: ['leftKnee'],
  leftHeel: ['leftAnkle', 'leftKnee'],
  leftFootIndex: ['leftAnkle', 'leftKnee'],
  rightElbow: ['rightShoulder'],
  rightWrist: ['rightElbow', 'rightShoulder'],
  rightAnkle: ['rightKnee'],
  rightHeel: ['rightAnkle', 'rightKnee'],
  rightFootIndex: ['rightAnkle', 'rightKnee'],
};

/** The network's points, moved to where hints say that they are; what hangs on a mark goes along unless it has a hint of its own. */
export function withHints(
  observations: BodyObservations,
  hinted: readonly (readonly HintedDepth[])[],
  scale: number,
): BodyObservations {
  const world = observations.world.slice();
  hinted.forEach((list, frame) => {
    const at = (mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3 + 2;
    const shifts = new Map<MarkName, number>(
      list.map(({ mark, nearer, weight }) => [mark, weight * (nearer / scale - observations.world[at(mark)])]),
    );
    for (const [mark, shift] of shifts) world[at(mark)] += shift;
    for (const [mark, carriers] of Object.entries(HANGS_ON) as [MarkName, readonly MarkName[]][]) {
      const carrier = shifts.has(mark) ? undefined : carriers.find((other) => shifts.has(other));
      if (carrier) world[at(mark)] += shifts.get(carrier) ?? 0;
    }
  });
  return { ...observations, world };
}
