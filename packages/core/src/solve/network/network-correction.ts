import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { CARRIED_MARKS } from './carried-marks';
import { mapped, type LearnedMap } from './learned-map';

/**
 * What the pose network gets wrong of a body's 3D points, learned from made-up people of several builders (`./run train`). Two maps take one
 * frame's points, marks and how surely they are seen, and give how far each joint lies beside them: one in the camera's axes, as depth is
 * told worse than the rest, one in the body's own, as a body has the same faults wherever it faces. Their mean counts.
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

/** A learned correction. */
export interface Correction {
  camera: LearnedMap;
  body: LearnedMap;
  /** The part of it that is believed: less than all, as real people are a family that nothing was learned from. */
  share: number;
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

/** Cosine and sine of how far the body is turned about the camera's upright axis, by its shoulders and hips. */
export function facing(input: Float32Array): readonly [cosine: number, sine: number] {
  const along = (k: number): number =>
    [SHOULDERS, HIPS].reduce((sum, [left, right]) => sum + input[pointAt(left) + k] - input[pointAt(right) + k], 0);
  const [x, z] = [along(0), along(2)];
  const length = Math.hypot(x, z) || 1;
  return [x / length, -z / length];
}

const pointAt = (mark: MarkName): number => LOOKED_AT.indexOf(mark) * 6;

/** Turns triples from the camera's axes to the body's; back with the sine's sign turned over. */
export function turnedBy(values: Float32Array, [cosine, sine]: readonly [number, number]): Float32Array {
  const out = values.slice();
  for (let i = 0; i + 2 < values.length; i += 3) {
    out[i] = values[i] * cosine - values[i + 2] * sine;
    out[i + 2] = values[i] * sine + values[i + 2] * cosine;
  }
  return out;
}

/** The same frame in the body's own axes: points, marks, place in the picture, and which way it faces. */
export function bodyInput(input: Float32Array): Float32Array {
  const [cosine, sine] = facing(input);
  const count = LOOKED_AT.length * 3;
  const points = new Float32Array(count);
  const marks = new Float32Array(count);
  for (let i = 0; i < count; i++) {
    const from = Math.floor(i / 3) * 6 + (i % 3);
    points[i] = input[from];
    marks[i] = input[from + 3];
  }
  return Float32Array.of(
    ...turnedBy(points, [cosine, sine]),
    ...marks,
    ...input.subarray(INPUTS - 2),
    cosine,
    sine,
    cosine * cosine - sine * sine,
    2 * cosine * sine,
  );
}

/** How far each corrected point lies from its joint, body heights, camera axes: three numbers each. */
export function correctionOf(input: Float32Array, { camera, body, share }: Correction): Float32Array {
  const [cosine, sine] = facing(input);
  const own = turnedBy(mapped(body, bodyInput(input)), [cosine, -sine]);
  return mapped(camera, input).map((value, i) => share * OUTPUT_SCALE * 0.5 * (value + own[i]));
}

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
    for (const { mark, by } of CARRIED_MARKS)
      move(mark, (k) => by.reduce((sum, carrier) => sum + offOf(carrier)(k) / by.length, 0));
  }
  return { ...observations, world };
}
