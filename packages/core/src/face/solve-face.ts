import type { Curve } from '../motion/motion';
import { FACE_MARK_COUNT, type FaceObservations } from '../observe/face';
import { fillGaps } from '../signal/fill-gaps';
import { gaussianColumns } from '../signal/gaussian';
import { median } from '../signal/joint-columns';
import { oneEuroBothWays } from '../signal/one-euro';
import { FACE_OUTPUTS, faceInputs, TOLD_SHAPES, tellFace } from './face-map';
import { groupOfShape, mirrorShape, shapeCurve, within, type FaceShape } from './face-shapes';
import { GAZE_CURVES, lookShapes } from './gaze';
import { lidCurves } from './lids';
import { measuredFace } from './measured-face';

/** Shapes and gaze are calmed like this: noise is halved, blinks keep their height. */
const CALM = { least: 2, beta: 8 };
/** The share of frames that lies below the top of a shape's range, and of a blink's, which is short. */
const TOP = 0.98;
const BLINK_TOP = 0.995;
/** A top is at least this: what is never fully made is not taken for the whole. */
const LEAST_TOP = 0.5;
/** Below this nothing is made. */
const DEAD = 0.04;
/** Through lids that are closed by more than this the eyes are not seen. */
const LIDS_CLOSED = 0.4;
/** Faces of so many pixels, chin to forehead, tell nothing; from so many on they tell all. The jaw is told of smaller ones. */
const FINE = [38, 62] as const;
const JAW = [22, 36] as const;
/** Its size is steadied over so many seconds (standard deviation). */
const SIZE_STEADY = 0.7;
/** Outer corners of the eyes, and how much taller a face is than they are apart. */
const CORNERS = [33, 263];
const TALL = 1.9;

/** What is known of a face besides its marks. */
export interface FaceOptions {
  /** A frame that a person said is neutral; found if left out. */
  neutral?: number;
  /** How far the mouth is open as the voice tells it, for each frame: counts where the face was not seen. */
  mouth?: Float32Array;
}

/**
 * The curves of a face over a take: the shapes that can be told (`TOLD_SHAPES`), those of the gaze, and the gaze itself. Where no face was seen they pass over
 * into a face that does nothing.
 * @returns nothing where no face was ever seen, but for the mouth that a voice tells.
 */
export function solveFace(face: FaceObservations, rate: number, { neutral, mouth }: FaceOptions = {}): Curve[] {
  const frames = face.presence.length;
  const measured = measuredFace(face, neutral);
  if (!measured) return mouth ? [{ name: shapeCurve('jawOpen'), values: mouth.slice() }] : [];
  const { measures } = measured;
  const told = new Float32Array(frames * FACE_OUTPUTS);
  const seen = new Float32Array(frames);
  const jaw = TOLD_SHAPES.indexOf('jawOpen');
  measures.forEach((one, frame) => {
    if (!one) {
      if (mouth) told[frame * FACE_OUTPUTS + jaw] = mouth[frame];
      return;
    }
    told.set(tellFace(faceInputs(one, measured.neutral)), frame * FACE_OUTPUTS);
    seen[frame] = 1;
  });
  fillGaps(told, FACE_OUTPUTS, seen, rate);
  const calm = (values: Float64Array): Float64Array => oneEuroBothWays(values, rate, CALM);
  const lids = lidCurves(measures, rate);
  const columns = new Map(
    TOLD_SHAPES.map((shape, output) => {
      // Lids have a measure of their own, which knows a blink from eyes that look down.
      if (shape === 'eyeBlinkLeft') return [shape, calm(lids.left)];
      if (shape === 'eyeBlinkRight') return [shape, calm(lids.right)];
      return [shape, calm(Float64Array.from({ length: frames }, (_, frame) => told[frame * FACE_OUTPUTS + output]))];
    }),
  );
  const [fine, coarse] = [FINE, JAW].map((range) => fineness(face, rate, range));
  const shapes = new Map<FaceShape, Float32Array>();
  for (const [shape, values] of columns) {
    const top = rangeOf(shape, [values, columns.get(mirrorShape(shape)) ?? values]);
    const share = shape === 'jawOpen' ? coarse : fine;
    shapes.set(
      shape,
      Float32Array.from(values, (value, frame) => share[frame] * within((value / top - DEAD) / (1 - DEAD))),
    );
  }
  const closed = (['eyeBlinkLeft', 'eyeBlinkRight'] as const).map((shape) => shapes.get(shape) as Float32Array);
  const gaze = gazeOf(told, seen, closed, rate);
  for (const values of [gaze.across, gaze.up]) values.forEach((value, frame) => (values[frame] = value * fine[frame]));
  const looks = lookShapes(gaze.across, gaze.up);
  return [
    ...[...shapes, ...looks].map(([shape, values]) => ({ name: shapeCurve(shape), values })),
    { name: GAZE_CURVES.across, values: gaze.across },
    { name: GAZE_CURVES.up, values: gaze.up },
  ];
}

/** The value that counts as a shape fully made: what is hardly ever surpassed in the take, on both sides together. */
function rangeOf(shape: FaceShape, columns: readonly Float64Array[]): number {
  const all = columns.flatMap((values) => [...values]).sort((a, b) => a - b);
  const share = shape.startsWith('eyeBlink') ? BLINK_TOP : TOP;
  const top = all[Math.min(all.length - 1, Math.floor(share * all.length))];
  // The jaw opens as far as it does.
  return groupOfShape(shape) === 'jaw' ? 1 : Math.max(LEAST_TOP, top);
}

/** How much a face's size lets its shapes be told, 0 … 1 in each frame: steadied, so that it brings no unrest of its own. */
function fineness(
  { marks, presence }: FaceObservations,
  rate: number,
  [small, large]: readonly [number, number],
): Float32Array {
  const [right, left] = CORNERS;
  const at = (frame: number, mark: number): number => (frame * FACE_MARK_COUNT + mark) * 3;
  const tall = Array.from(presence, (_, frame) => {
    const [a, b] = [at(frame, right), at(frame, left)];
    return TALL * Math.hypot(marks[a] - marks[b], marks[a + 1] - marks[b + 1], marks[a + 2] - marks[b + 2]);
  });
  const usual = median(tall.filter(Number.isFinite));
  const steady = gaussianColumns(
    Float32Array.from(tall, (value) => (Number.isFinite(value) ? value : usual)),
    1,
    SIZE_STEADY * rate,
  );
  return steady.map((value) => within((value - small) / (large - small)));
}

/** Where the eyes look; it leads straight over closed lids. */
function gazeOf(
  told: Float32Array,
  seen: Float32Array,
  lids: readonly Float32Array[],
  rate: number,
): { across: Float32Array; up: Float32Array } {
  const frames = seen.length;
  const open = seen.map((value, frame) => (Math.max(lids[0][frame], lids[1][frame]) > LIDS_CLOSED ? 0 : value));
  const both = new Float32Array(frames * 2);
  for (let frame = 0; frame < frames; frame++)
    for (const i of [0, 1]) both[frame * 2 + i] = told[frame * FACE_OUTPUTS + TOLD_SHAPES.length + i];
  fillGaps(both, 2, open, rate);
  const [across, up] = [0, 1].map((i) =>
    Float32Array.from(
      oneEuroBothWays(
        Float64Array.from({ length: frames }, (_, frame) => both[frame * 2 + i]),
        rate,
        CALM,
      ),
    ),
  );
  return { across, up };
}
