import type { Side } from '../motion/humanoid';
import type { Motion } from '../motion/motion';

const BOTH = ['Left', 'Right'] as const;
/** Names of shapes that both sides have. */
export const paired = <T extends string>(...names: T[]): `${T}${'Left' | 'Right'}`[] =>
  names.flatMap((name) => BOTH.map((side) => `${name}${side}` as const));

/** The 52 shapes of a face that the trade uses, each from 0 to 1. Left and right are the performer's. */
export const FACE_SHAPES = [
  ...paired('eyeBlink', 'eyeLookDown', 'eyeLookIn', 'eyeLookOut', 'eyeLookUp', 'eyeSquint', 'eyeWide'),
  'jawForward',
  'jawLeft',
  'jawRight',
  'jawOpen',
  'mouthClose',
  'mouthFunnel',
  'mouthPucker',
  'mouthLeft',
  'mouthRight',
  ...paired('mouthSmile', 'mouthFrown', 'mouthDimple', 'mouthStretch'),
  'mouthRollLower',
  'mouthRollUpper',
  'mouthShrugLower',
  'mouthShrugUpper',
  ...paired('mouthPress', 'mouthLowerDown', 'mouthUpperUp', 'browDown'),
  'browInnerUp',
  ...paired('browOuterUp'),
  'cheekPuff',
  ...paired('cheekSquint', 'noseSneer'),
  'tongueOut',
] as const;
export type FaceShape = (typeof FACE_SHAPES)[number];

/** Parts of the face whose strength a person sets together. */
export const FACE_GROUPS = ['brows', 'eyes', 'jaw', 'mouth'] as const;
export type FaceGroup = (typeof FACE_GROUPS)[number];

/** The group that a shape belongs to: cheeks and nose go with the mouth. */
export function groupOfShape(shape: FaceShape): FaceGroup {
  if (shape.startsWith('brow')) return 'brows';
  if (shape.startsWith('eye')) return 'eyes';
  return shape.startsWith('jaw') ? 'jaw' : 'mouth';
}

/** Which side of the face a shape moves; null for both. */
export function sideOfShape(shape: FaceShape): Side | null {
  // The mouth and the jaw go to a side as a whole.
  if (/^(jaw|mouth)(Left|Right)$/.test(shape)) return null;
  if (shape.endsWith('Left')) return 'left';
  return shape.endsWith('Right') ? 'right' : null;
}

/** The same shape of the other side. */
export function mirrorShape(shape: FaceShape): FaceShape {
  if (shape.endsWith('Left')) return `${shape.slice(0, -4)}Right` as FaceShape;
  return shape.endsWith('Right') ? (`${shape.slice(0, -5)}Left` as FaceShape) : shape;
}

/** Whether a motion has a face that was told. */
export const hasFace = ({ curves }: Pick<Motion, 'curves'>): boolean =>
  curves.some(({ name }) => name.startsWith('face.'));

/** The name of a shape's curve in a motion. */
export const shapeCurve = (shape: FaceShape): string => `face.${shape}`;

/** The strength of a shape, 0 … 1. */
export const within = (value: number): number => Math.min(1, Math.max(0, value));
