import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../observe/body';

/**
 * What the pose network gets wrong of a body's 3D points, learned from made-up people of several builders (`./run train`): a small
 * network of its own takes one frame's points, marks and how surely they are seen, and gives how far each joint lies beside them.
 */
const SIDED = ['Shoulder', 'Elbow', 'Wrist', 'Hip', 'Knee', 'Ankle', 'FootIndex'] as const;
const SIDES = ['left', 'right'] as const;
/** Marks that are looked at. */
export const LOOKED_AT: readonly MarkName[] = [
  'nose',
  'leftEar',
  'rightEar',
  ...SIDES.flatMap((side) => SIDED.map((part) => `${side}${part}` as const)),
];
/** Marks whose points are corrected: those at limb joints. */
export const CORRECTED: readonly MarkName[] = SIDES.flatMap((side) =>
  SIDED.slice(0, 6).map((part) => `${side}${part}` as MarkName),
);
/** Numbers that describe a frame: three of the point, two of the mark and one of its visibility for each, and the body's place in the picture. */
export const INPUTS = LOOKED_AT.length * 6 + 2;
export const OUTPUTS = CORRECTED.length * 3;

/** Corrections come in these parts of a body's height. */
export const OUTPUT_SCALE = 0.1;
/** Scales by which inputs are of the size of one. */
const POINT_SCALE = 3;
const MARK_SCALE = 0.5;
/** The part of nose-to-ankle that a trunk has at least: one seen from its end still tells a size. */
const LEAST_TRUNK = 0.25;

/** Added to the deviation of inputs, so that what hardly varies is not blown up. */
export const SLACK = 0.05;
/** What hidden layers let pass of what is below zero (a leaky rectifier). */
export const LEAK = 0.1;

/** One layer: a row of weights for each of its values, the last of a row added. */
export interface CorrectionLayer {
  rows: number;
  weights: Float32Array;
}

/** A learned correction: mean and deviation of its inputs, and its layers. */
export interface Correction {
  mean: Float32Array;
  deviation: Float32Array;
  layers: readonly CorrectionLayer[];
}

const SHOULDERS: readonly MarkName[] = ['leftShoulder', 'rightShoulder'];
const HIPS: readonly MarkName[] = ['leftHip', 'rightHip'];

/**
 * One frame as the correction sees it.
 * @param perMetre body heights in one metre of the network's.
 * @param focal pixels.
 * @returns null where the performer was not wholly told.
 */
export function correctionInput(
  { marks, world, width, height }: BodyObservations,
  frame: number,
  perMetre: number,
  focal: number,
): Float32Array | null {
  const at = (mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3;
  const middle = (pair: readonly MarkName[], k: number): number =>
    (marks[at(pair[0]) + k] + marks[at(pair[1]) + k]) / 2;
  const [x, y] = [middle(HIPS, 0), middle(HIPS, 1)];
  const trunk = Math.hypot(middle(SHOULDERS, 0) - x, middle(SHOULDERS, 1) - y);
  const size = Math.max(10, trunk, LEAST_TRUNK * (marks[at('leftAnkle') + 1] - marks[at('nose') + 1]));
  const input = new Float32Array(INPUTS);
  LOOKED_AT.forEach((mark, i) => {
    const from = at(mark);
    for (let k = 0; k < 3; k++) input[i * 6 + k] = world[from + k] * perMetre * POINT_SCALE;
    input[i * 6 + 3] = ((marks[from] - x) / size) * MARK_SCALE;
    input[i * 6 + 4] = ((y - marks[from + 1]) / size) * MARK_SCALE;
    input[i * 6 + 5] = marks[from + 2] - 0.5;
  });
  input[INPUTS - 2] = (x - width / 2) / focal;
  input[INPUTS - 1] = (height / 2 - y) / focal;
  return input.every(Number.isFinite) ? input : null;
}

/** How far each corrected point lies from its joint, body heights, camera axes: three numbers each. */
export function correctionOf(input: Float32Array, { mean, deviation, layers }: Correction): Float32Array {
  let values: Float32Array = input.map((value, i) => (value - mean[i]) / (deviation[i] + SLACK));
  layers.forEach(({ rows, weights }, layer) => {
    const width = values.length;
    const next = new Float32Array(rows);
    for (let r = 0; r < rows; r++) {
      const base = r * (width + 1);
      let sum = weights[base + width];
      for (let k = 0; k < width; k++) sum += weights[base + k] * values[k];
      next[r] = layer < layers.length - 1 && sum < 0 ? LEAK * sum : sum;
    }
    values = next;
  });
  return values.map((value) => value * OUTPUT_SCALE);
}

/** Marks that go along with a corrected one: hands with wrists, feet with ankles. */
const ALONG: readonly (readonly [MarkName, readonly MarkName[]])[] = SIDES.flatMap((side) => [
  [`${side}Wrist`, [`${side}Pinky`, `${side}Index`, `${side}Thumb`]] as const,
  [`${side}Ankle`, [`${side}Heel`, `${side}FootIndex`]] as const,
]);
const HEAD = Object.keys(MARK).filter((name) => /nose|Eye|Ear|mouth/.test(name)) as MarkName[];

/**
 * Moves the network's points by what was learned; the head goes along with the shoulders. The input is left alone.
 * @param perMetre body heights in one metre of the network's. @param focal pixels.
 */
export function corrected(
  observations: BodyObservations,
  perMetre: number,
  focal: number,
  correction: Correction,
): BodyObservations {
  const world = observations.world.slice();
  for (let frame = 0; frame < observations.frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const input = correctionInput(observations, frame, perMetre, focal);
    if (!input) continue;
    const off = correctionOf(input, correction);
    const move = (mark: MarkName, by: (k: number) => number): void => {
      const at = (frame * MARK_COUNT + MARK[mark]) * 3;
      for (let k = 0; k < 3; k++) world[at + k] += by(k) / perMetre;
    };
    const offOf = (mark: MarkName) => (k: number) => off[CORRECTED.indexOf(mark) * 3 + k];
    for (const mark of CORRECTED) move(mark, offOf(mark));
    for (const [mark, along] of ALONG) for (const other of along) move(other, offOf(mark));
    const [left, right] = SHOULDERS.map(offOf);
    for (const mark of HEAD) move(mark, (k) => (left(k) + right(k)) / 2);
  }
  return { ...observations, world };
}
