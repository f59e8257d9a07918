import { FACE_SHAPES, shapeCurve } from '@merry-shadow/core/face/face-shapes';
import { GAZE_CURVES } from '@merry-shadow/core/face/gaze';
import { handPoseOf, wholeBend } from '@merry-shadow/core/hands/finger-turns';
import { FINGERS, hasFingers, SIDES, type Side } from '@merry-shadow/core/motion/humanoid';
import { nameWords } from '@merry-shadow/core/motion/name-words';
import { readRotation, type Motion } from '@merry-shadow/core/motion/motion';
import { jointIndex } from '@merry-shadow/core/motion/skeleton';

/** A curve of a take that can be read in a chart. */
export interface TakeCurve {
  id: string;
  title: string;
  /** Degrees, or a strength from 0 to 1. */
  unit: '°' | '';
  values: (motion: Motion) => number[];
}

const DEGREES = 180 / Math.PI;

/** The curves of hands and face that a motion has. */
export function takeCurves({ curves, skeleton }: Motion): TakeCurve[] {
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
