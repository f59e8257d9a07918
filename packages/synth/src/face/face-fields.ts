import type { FaceShape } from '@merry-shadow/core/face/face-shapes';
import { smoothStep } from '@merry-shadow/core/motion/turns-from-axes';
import { spot } from '../soft-forms';
import type { FaceFeatures } from '../choreography/script';

/** A place in head coordinates, metres of a 1.75 m body: +X to the performer's left, +Z ahead, origin the head joint. */
type Place = readonly [x: number, y: number, z: number];
/** Where a shape at full strength moves a place of the face, metres. */
export type FaceField = (place: Place) => Place;

/** Where eyes, brows and mouth of an average made-up face are, metres. */
export const EYE = { x: 0.0315, y: 0.07, half: 0.0145, tall: 0.0066 };
export const MOUTH = { y: 0.005, half: 0.0255 };
export const BROW = { y: 0.0915 };

/** Only the front of the head moves. */
const front = (z: number): number => smoothStep(0, 1, (z + 0.005) / 0.07);

/** Below the lips and in front of the ears the jaw hinges down, by 24 mm. */
function jaw([x, y, z]: Place): number {
  const below = smoothStep(0, 1, (0.007 - y) / 0.012);
  const throat = smoothStep(0, 1, (y + 0.075) / 0.035);
  return below * throat * front(z) * (Math.abs(x) < 0.075 ? 1 : 0);
}

/**
 * How each shape moves the skin of a made-up face. What lids and eyes do is painted (`render/face-paint.ts`). Sizes are rounded
 * from what people's faces do: corners of the mouth 7 to 8 mm, brows 5 mm.
 */
export function faceFields({ mouth, brows }: FaceFeatures): Partial<Record<FaceShape, FaceField>> {
  const half = MOUTH.half * mouth;
  const browY = BROW.y + 0.004 * brows;
  const lips = (x: number, y: number): number => spot(x, y - MOUTH.y, half * 1.25, 0.018);
  const field =
    (shift: (x: number, y: number, z: number) => Place): FaceField =>
    ([x, y, z]) => {
      const [dx, dy, dz] = shift(x, y, z);
      const share = front(z);
      return [dx * share, dy * share, dz * share];
    };
  const corner = (sign: 1 | -1, [dx, dy, dz]: Place, cheek = 0): FaceField =>
    field((x, y) => {
      const at = spot(x - sign * half, y - MOUTH.y, 0.017, 0.017);
      const above = cheek * spot(x - sign * 0.041, y - 0.031, 0.018, 0.016);
      return [sign * (dx * at + 0.001 * above), dy * at + 0.004 * above, dz * at + 0.003 * above];
    });
  const both = (name: string, make: (sign: 1 | -1) => FaceField): Record<string, FaceField> => ({
    [`${name}Left`]: make(1),
    [`${name}Right`]: make(-1),
  });
  return {
    jawOpen: (place) => [0, -0.024 * jaw(place), 0],
    jawLeft: (place) => [0.008 * jaw(place), 0, 0],
    jawRight: (place) => [-0.008 * jaw(place), 0, 0],
    mouthPucker: field((x, y) => [-0.34 * x * lips(x, y), 0, 0.006 * lips(x, y)]),
    mouthFunnel: field((x, y) => {
      const at = lips(x, y);
      return [-0.18 * x * at, (y > MOUTH.y - 0.001 ? 0.003 : -0.005) * at, 0.007 * at];
    }),
    mouthLeft: field((x, y) => [0.006 * lips(x, y), 0, 0]),
    mouthRight: field((x, y) => [-0.006 * lips(x, y), 0, 0]),
    mouthShrugLower: field((x, y) => {
      const chin = spot(x, y + 0.022, 0.022, 0.016);
      return [0, 0.005 * chin, 0.002 * chin];
    }),
    ...both('mouthSmile', (sign) => corner(sign, [0.007, 0.008, -0.003], 1)),
    ...both('mouthFrown', (sign) => corner(sign, [0.001, -0.007, 0])),
    ...both('mouthStretch', (sign) => corner(sign, [0.007, -0.003, -0.003])),
    ...both('mouthDimple', (sign) => corner(sign, [0.004, 0.001, -0.005])),
    ...both('mouthUpperUp', (sign) => field((x, y) => [0, 0.006 * spot(x - sign * 0.012, y - 0.012, 0.012, 0.009), 0])),
    ...both('mouthLowerDown', (sign) =>
      field((x, y) => [0, -0.006 * spot(x - sign * 0.012, y + 0.005, 0.012, 0.009), 0]),
    ),
    browInnerUp: field((x, y) => [
      0,
      0.006 * (spot(x - 0.017, y - browY, 0.014, 0.015) + spot(x + 0.017, y - browY, 0.014, 0.015)),
      0,
    ]),
    ...both('browOuterUp', (sign) => field((x, y) => [0, 0.006 * spot(x - sign * 0.044, y - browY, 0.015, 0.015), 0])),
    ...both('browDown', (sign) =>
      field((x, y) => {
        const at = spot(x - sign * 0.028, y - browY, 0.022, 0.014);
        return [-sign * 0.002 * at, -0.005 * at, 0];
      }),
    ),
    cheekPuff: field((x, y) => {
      const at = spot(Math.abs(x) - 0.042, y - 0.008, 0.018, 0.02);
      return [Math.sign(x) * 0.006 * at, 0, 0.004 * at];
    }),
  };
}

/** Shapes that are painted rather than moved. */
export const PAINTED_SHAPES: readonly FaceShape[] = [
  'eyeBlinkLeft',
  'eyeBlinkRight',
  'eyeWideLeft',
  'eyeWideRight',
  'eyeSquintLeft',
  'eyeSquintRight',
];
