import { FACE_SHAPES, shapeCurve } from '../../face/face-shapes';
import { UNTOLD_SHAPES } from '../../face/face-map';
import { GAZE_CURVES } from '../../face/gaze';
import type { Motion } from '../../motion/motion';

/** Digits of a value from 0 to 1, and of an angle in degrees. */
const DIGITS = 4;

const DEGREES = 180 / Math.PI;

interface FaceColumn {
  name: string;
  values: Float32Array;
}

/** Columns of a face: the 52 shapes, 0 where one was not told, then where the eyes look, degrees. */
function faceColumns({ curves, frames }: Motion): FaceColumn[] {
  const curve = (name: string): Float32Array =>
    curves.find((one) => one.name === name)?.values ?? new Float32Array(frames);
  return [
    ...FACE_SHAPES.map((shape) => ({ name: shape, values: curve(shapeCurve(shape)) })),
    { name: 'gazeAcross', values: curve(GAZE_CURVES.across).map((angle) => angle * DEGREES) },
    { name: 'gazeUp', values: curve(GAZE_CURVES.up).map((angle) => angle * DEGREES) },
  ];
}

const rounded = (value: number): number => Number(value.toFixed(DIGITS));

/**
 * Writes a face as comma-separated values (RFC 4180): a header, then one row a frame with its number, its time in seconds, the 52 shapes
 * from 0 to 1, and the gaze in degrees to the performer's left and up.
 */
export function writeFaceCsv(motion: Motion): string {
  const columns = faceColumns(motion);
  const lines = [['frame', 'seconds', ...columns.map(({ name }) => name)].join(',')];
  for (let frame = 0; frame < motion.frames; frame++)
    lines.push([frame, rounded(frame / motion.rate), ...columns.map(({ values }) => rounded(values[frame]))].join(','));
  return `${lines.join('\r\n')}\r\n`;
}

/** Writes a face as JSON: names in the header, one row of values a frame, and the shapes that could not be told. */
export function writeFaceJson(motion: Motion): string {
  const columns = faceColumns(motion);
  return `${JSON.stringify({
    rate: motion.rate,
    frames: motion.frames,
    names: columns.map(({ name }) => name),
    notTold: UNTOLD_SHAPES,
    rows: Array.from({ length: motion.frames }, (_, frame) => columns.map(({ values }) => rounded(values[frame]))),
  })}\n`;
}
