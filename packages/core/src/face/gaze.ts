import type { FaceShape } from './face-shapes';

/** Curves of where the eyes look against the head, radians: to the performer's left, and up. */
export const GAZE_CURVES = { across: 'gaze.across', up: 'gaze.up' } as const;

/** Angles at which eyes look as far as a shape goes, radians. */
const LOOK = { across: (30 * Math.PI) / 180, up: (25 * Math.PI) / 180 };
/** The shapes of eyes that look somewhere. */
export function lookShapes(across: Float32Array, up: Float32Array): [FaceShape, Float32Array][] {
  const share = (values: Float32Array, sign: 1 | -1, full: number): Float32Array =>
    values.map((value) => Math.min(1, Math.max(0, (sign * value) / full)));
  const [left, right] = [share(across, 1, LOOK.across), share(across, -1, LOOK.across)];
  const [above, below] = [share(up, 1, LOOK.up), share(up, -1, LOOK.up)];
  return [
    ['eyeLookOutLeft', left],
    ['eyeLookInRight', left],
    ['eyeLookInLeft', right],
    ['eyeLookOutRight', right],
    ['eyeLookUpLeft', above],
    ['eyeLookUpRight', above],
    ['eyeLookDownLeft', below],
    ['eyeLookDownRight', below],
  ];
}
