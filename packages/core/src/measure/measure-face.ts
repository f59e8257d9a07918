import { GAZE_CURVES } from '../face/gaze';
import { FACE_SHAPES, shapeCurve } from '../face/face-shapes';
import type { Curve } from '../motion/motion';
import { correlation } from './correlation';
import type { Truth } from './truth';

/** A shape that is never made by this much in a clip has nothing that could be gone with. */
const LEAST_RANGE = 0.25;
/** Blinks: closed by this much in truth, and in what was told, within so many seconds. */
const BLINK = 0.6;
const TOLD_BLINK = 0.4;
const BLINK_SECONDS = 0.12;

/** How well a face was told: how each curve goes with its truth (Pearson), for those that the clip makes, and blinks. */
export interface FaceFigures {
  correlation: Map<string, number>;
  blinks: { true: number; found: number; false: number };
}

/** Compares the curves of a face with the truth. @param first frame of the truth at which the curves begin. */
export function measureFaceCurves(curves: readonly Curve[], truth: Truth, first = 0): FaceFigures {
  const valuesOf = (name: string): Float32Array | undefined => curves.find((curve) => curve.name === name)?.values;
  const figures: FaceFigures = { correlation: new Map(), blinks: { true: 0, found: 0, false: 0 } };
  const add = (name: string, told: Float32Array | undefined, real: readonly number[], least: number): void => {
    if (!told) return;
    const part = real.slice(first, first + told.length);
    if (Math.max(...part) - Math.min(...part) < least) return;
    // What is never told goes with nothing.
    figures.correlation.set(name, correlation([...told], part) || 0);
  };
  for (const shape of FACE_SHAPES) {
    const real = truth.face?.[shape];
    if (real) add(shape, valuesOf(shapeCurve(shape)), real, LEAST_RANGE);
  }
  const gaze = truth.gaze ?? [];
  add(
    'gaze across',
    valuesOf(GAZE_CURVES.across),
    gaze.map(([across]) => across),
    0.1,
  );
  add(
    'gaze up',
    valuesOf(GAZE_CURVES.up),
    gaze.map(([, up]) => up),
    0.1,
  );
  const told = valuesOf(shapeCurve('eyeBlinkLeft'));
  const real = truth.face?.eyeBlinkLeft?.slice(first);
  if (told && real) {
    const [a, b] = [peaks(real, BLINK), peaks(told, TOLD_BLINK)];
    const near = (list: readonly number[], frame: number): boolean =>
      list.some((other) => Math.abs(other - frame) <= BLINK_SECONDS * truth.rate);
    figures.blinks = {
      true: a.length,
      found: a.filter((frame) => near(b, frame)).length,
      false: b.filter((frame) => !near(a, frame)).length,
    };
  }
  return figures;
}

/** The highest frame of each run above a level. */
function peaks(values: ArrayLike<number>, level: number): number[] {
  const found: number[] = [];
  for (let frame = 0; frame < values.length; frame++) {
    if (values[frame] < level) continue;
    let top = frame;
    for (; frame < values.length && values[frame] >= level; frame++) if (values[frame] > values[top]) top = frame;
    found.push(top);
  }
  return found;
}
