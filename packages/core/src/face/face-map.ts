import { runSmallNet } from '../learned/small-net';
import { FACE_MEASURES } from './face-measures';
import { FACE_SHAPES, mirrorShape, paired, type FaceShape } from './face-shapes';
import { LEARNED_FACE } from './learned-face';

/** Shapes that the marks of a face tell. */
export const TOLD_SHAPES: readonly FaceShape[] = [
  ...paired('eyeBlink', 'eyeWide', 'eyeSquint', 'browDown', 'browOuterUp'),
  'browInnerUp',
  'jawOpen',
  'jawLeft',
  'jawRight',
  ...paired('mouthSmile', 'mouthFrown', 'mouthStretch', 'mouthDimple', 'mouthUpperUp', 'mouthLowerDown'),
  'mouthPucker',
  'mouthFunnel',
  'mouthLeft',
  'mouthRight',
  'mouthShrugLower',
];

/** Shapes that follow from where the eyes look (`lookShapes`). */
const isLook = (shape: FaceShape): boolean => shape.startsWith('eyeLook');

/** Shapes that one camera can't tell from a face's marks: they are delivered as 0. */
export const UNTOLD_SHAPES: readonly FaceShape[] = FACE_SHAPES.filter(
  (shape) => !TOLD_SHAPES.includes(shape) && !isLook(shape),
);

/** Values that a face network gives: the told shapes, then where the eyes look. */
export const FACE_OUTPUTS = TOLD_SHAPES.length + 2;

const VIEW_FROM = FACE_MEASURES.indexOf('yaw');

/** What shapes are told from: how measures differ from the neutral face's, lids as a share of it, and how the head is turned. */
export function faceInputs(measures: readonly number[], neutral: readonly number[]): number[] {
  return FACE_MEASURES.map((name, i) => {
    if (i >= VIEW_FROM) return measures[i];
    return name.endsWith('.open') ? measures[i] / neutral[i] - 1 : measures[i] - neutral[i];
  });
}

/** The outputs of the mirrored face. */
export function mirrorOutputs(outputs: ArrayLike<number>): number[] {
  return [
    ...TOLD_SHAPES.map((shape) => outputs[TOLD_SHAPES.indexOf(mirrorShape(shape))]),
    -outputs[TOLD_SHAPES.length],
    outputs[TOLD_SHAPES.length + 1],
  ];
}

/** Tells shapes and gaze of a frame from a face's measures. */
export function tellFace(inputs: readonly number[]): Float64Array {
  return runSmallNet(LEARNED_FACE, inputs, new Float64Array(FACE_OUTPUTS));
}
