import { FACE_SHAPES, shapeCurve } from '@merry-shadow/core/face/face-shapes';
import { GAZE_CURVES } from '@merry-shadow/core/face/gaze';
import { handPoseOf, wholeBend } from '@merry-shadow/core/hands/finger-turns';
import { FINGERS, hasFingers, SIDES, type Side } from '@merry-shadow/core/motion/humanoid';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import { readRotation, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';
import type { PlantedPart } from '@merry-shadow/core/ground/plants';
import { bodyCurves } from './body-curves';

/** Units of curves, with what the axis says; each has a row of its own in the chart. */
export const CURVE_UNITS = { '': 'Strength', '°': 'Degrees', cm: 'Centimetres', 'm/s': 'Metres a second' } as const;
export type CurveUnit = keyof typeof CURVE_UNITS;

/** A curve of a take that can be read in a chart. */
export interface TakeCurve {
  id: string;
  title: string;
  /** What it is counted in; a strength from 0 to 1 has none. */
  unit: CurveUnit;
  /** The part whose plants belong to it. */
  part?: PlantedPart;
  values: (motion: Motion) => number[];
}

const DEGREES = 180 / Math.PI;

/** The curves that a motion has: of the body, hands and face. */
export const takeCurves = (motion: Motion): TakeCurve[] => [...closeCurves(motion), ...bodyCurves(motion)];

/** Those of hands and face. */
function closeCurves({ curves, skeleton }: Motion): TakeCurve[] {
  const has = new Set(curves.map(({ name }) => name));
  const valuesOf = (name: string, factor: number) => (motion: Motion) =>
    Array.from(motion.curves.find((curve) => curve.name === name)?.values ?? [], (value) => value * factor);
  const shapes = FACE_SHAPES.filter((shape) => has.has(shapeCurve(shape))).map((shape): TakeCurve => ({
    id: shapeCurve(shape),
    title: nameWords(shape),
    unit: '',
    values: valuesOf(shapeCurve(shape), 1),
  }));
  const gaze = Object.entries(GAZE_CURVES)
    .filter(([, name]) => has.has(name))
    .map(([way, name]): TakeCurve => ({ id: name, title: `gaze ${way}`, unit: '°', values: valuesOf(name, DEGREES) }));
  const fingers = (hasFingers(skeleton) ? SIDES : []).flatMap((side) =>
    FINGERS.map((finger, f): TakeCurve => ({
      id: `${side}.${finger}`,
      title: `${side} ${finger.toLowerCase()}, whole bend`,
      unit: '°',
      values: (motion) => bendsOf(motion, side, f),
    })),
  );
  return [...shapes, ...gaze, ...fingers];
}

/** How far a finger is bent over all its joints in each frame, degrees. */
const bendsOf = (motion: Motion, side: Side, finger: number): number[] =>
  Array.from({ length: motion.frames }, (_, frame) => {
    const pose = handPoseOf(side, (bone) =>
      readRotation(motion, jointIndex(motion.skeleton, bone), frame, [0, 0, 0, 1]),
    );
    return wholeBend(pose, finger) * DEGREES;
  });
