import type { Side } from '@merry-shadow/core/motion/humanoid';
import { linear } from '../body/materials';
import type { FaceStrengths } from '../body/skin';
import type { FaceFeatures, Performer } from '../choreography/script';
import { BROW, EYE, MOUTH } from '../face/face-fields';

const white = linear('#f1ece4');
const iris = linear('#3f5a55');
const dark = linear('#1a0f0c');
const tongue = linear('#5c1f1d');
const teeth = linear('#eae3d6');

/** How the lids of an eye stand: half heights of its opening, metres. */
interface Lids {
  above: number;
  below: number;
}

/** What paints a face for one frame. */
interface FaceState {
  readonly features: FaceFeatures;
  readonly hair: readonly [number, number, number];
  readonly skin: readonly [number, number, number];
  readonly lids: Record<Side, Lids>;
  /** How far the middle of the irises is from that of the eyes, metres: to the performer's left, and up. */
  iris: [number, number];
  /** How far the lips are apart, 0 … 1, and how much of the inside is seen. */
  mouth: number;
}

/** A face that does nothing. */
function stillFace({ face, hair, skin }: Performer['look']): FaceState {
  const lids = (): Lids => ({ above: EYE.tall * face.lids, below: EYE.tall * face.lids });
  return {
    features: face,
    hair: linear(hair),
    skin: linear(skin),
    lids: { left: lids(), right: lids() },
    iris: [0, 0],
    mouth: 0,
  };
}

/** How far behind the lids the eyeball turns, metres. */
const EYEBALL = 0.0125;

/** Sets lids, eyes and lips for a frame. @param across, up where the eyes look, radians. */
function showOnFace(face: FaceState, made: FaceStrengths, across: number, up: number): void {
  const tall = EYE.tall * face.features.lids;
  for (const side of ['left', 'right'] as const) {
    const end = side === 'left' ? 'Left' : 'Right';
    const open = 1 - 0.94 * (made[`eyeBlink${end}`] ?? 0);
    const wide = 0.4 * (made[`eyeWide${end}`] ?? 0);
    const squint = 0.55 * (made[`eyeSquint${end}`] ?? 0);
    // Lids go with the eyes up and down.
    face.lids[side].above = tall * open * (1 + wide - 0.15 * squint) + Math.min(0, up) * 0.3 * EYE.tall * open;
    face.lids[side].below = tall * open * (1 + 0.3 * wide - squint);
  }
  face.iris = [EYEBALL * Math.sin(across), EYEBALL * Math.sin(up)];
  const apart = ['mouthFunnel', 'mouthUpperUpLeft', 'mouthUpperUpRight', 'mouthLowerDownLeft', 'mouthLowerDownRight'];
  face.mouth = Math.max(made.jawOpen ?? 0, ...apart.map((shape) => 0.4 * (made[shape as keyof FaceStrengths] ?? 0)));
}

/** What colours a face in each frame. */
export interface FacePaint {
  /** Sets lids, eyes and lips for a frame. @param across, up where the eyes look, radians. */
  show: (made: FaceStrengths, across: number, up: number) => void;
  /** Paints over the skin. @param x,y,z place in head coordinates, metres of a 1.75 m body: +X to the performer's left, +Z ahead. */
  paint: (x: number, y: number, z: number, colour: Float64Array) => void;
}

/** The paint of a plain head. */
export function plainPaint(look: Performer['look']): FacePaint {
  const face = stillFace(look);
  return {
    show: (made, across, up) => showOnFace(face, made, across, up),
    paint: (x, y, z, colour) => paintFace(x, y, z, face, colour),
  };
}

// Plain functions, not closures made for each pixel: this runs for every sample of the face.
export function blend(colour: Float64Array, to: readonly number[], amount: number): void {
  for (let c = 0; c < 3; c++) colour[c] += (to[c] - colour[c]) * amount;
}

/** How far a point lies inside a shape with a soft edge, 0 … 1. */
export function inside(distance: number, soft: number): number {
  return Math.min(1, Math.max(0, 0.5 - distance / soft));
}

/**
 * Paints eyes, lids, brows, lips and mouth over the skin.
 * @param x,y,z place in head coordinates, metres of a 1.75 m body: +X to the performer's left, +Z ahead.
 */
function paintFace(x: number, y: number, z: number, state: FaceState, colour: Float64Array): void {
  if (z < 0.03 || y < -0.05 || y > 0.13) return;
  const ax = Math.abs(x);
  // Warm cheeks and a shade under the nose and in the sockets.
  blend(
    colour,
    [state.skin[0] * 0.95, state.skin[1] * 0.62, state.skin[2] * 0.55],
    0.4 * inside(Math.hypot(ax - 0.042, y - 0.034) - 0.017, 0.02),
  );
  blend(
    colour,
    [state.skin[0] * 0.62, state.skin[1] * 0.54, state.skin[2] * 0.5],
    0.55 * inside(Math.hypot((ax - EYE.x * state.features.apart) / 1.5, y - EYE.y - 0.004) - 0.0125, 0.012),
  );
  blend(colour, dark, 0.75 * inside(Math.hypot(ax - 0.0075, (y - 0.0305) * 1.6) - 0.0032, 0.003));
  const { features } = state;
  const browY = BROW.y + 0.004 * features.brows;
  const brow = Math.abs(y - (browY - (ax - 0.034) ** 2 * 7)) - 0.0034 + Math.max(0, ax - 0.045) * 0.12;
  if (ax > 0.014 && ax < 0.054)
    blend(
      colour,
      state.hair.map((v) => v * 0.75),
      0.9 * inside(brow, 0.003),
    );
  paintEye(x, y, state, colour);

  const my = y - MOUTH.y;
  const across = ax / (MOUTH.half * features.mouth);
  if (across < 1.15 && Math.abs(my) < 0.022) {
    const shape = Math.sqrt(Math.max(0, 1 - across * across));
    const upperLip = 0.0072 * features.lips * shape * (1 - 0.22 * Math.exp(-((ax / 0.006) ** 2)));
    const lowerLip = -0.0094 * features.lips * shape;
    const lips = Math.max(my - upperLip, lowerLip - my);
    blend(colour, [state.skin[0] * 0.72, state.skin[1] * 0.4, state.skin[2] * 0.4], 0.85 * inside(lips, 0.003));
    // Between the lips: a dark line when closed, the inside of the mouth when the jaw is down.
    const gap = state.mouth > 0.02 ? 0.0036 : 0.0006;
    const hole = Math.max(my - 0.0012, -gap - my) - (state.mouth > 0.02 ? 0 : 0.0002);
    if (across < 0.94) {
      blend(colour, dark, 0.95 * inside(hole, 0.0012));
      if (state.mouth > 0.15) {
        blend(colour, teeth, 0.9 * inside(Math.max(my - 0.0012, 0.0002 - my), 0.0007) * (across < 0.7 ? 1 : 0));
        blend(colour, tongue, 0.8 * inside(Math.max(my + 0.0021, -gap - my), 0.0008) * (across < 0.6 ? 1 : 0));
      }
    }
  }
}

/** Paints the eye of a side: lids, white, iris, pupil and a light in it. */
function paintEye(x: number, y: number, { features, lids, iris: [aside, up] }: FaceState, colour: Float64Array): void {
  const sign = Math.sign(x) || 1;
  const ex = Math.abs(x) - EYE.x * features.apart;
  const ey = y - EYE.y;
  const half = EYE.half * features.eyes;
  if (Math.abs(ex) > half * 1.3 || Math.abs(ey) > 0.016) return;
  const { above, below } = lids[sign > 0 ? 'left' : 'right'];
  const open = Math.max(0.0003, ey > 0 ? above : below);
  const eye = (Math.hypot(ex / half, ey / open) - 1) * open;
  const lid = (Math.hypot(ex / (half * 1.1), ey / (open + 0.0016)) - 1) * open;
  blend(colour, dark, 0.85 * inside(lid, 0.0016));
  const ball = inside(eye, 0.0012);
  blend(colour, white, ball);
  const [ix, iy] = [ex - sign * aside, ey - up];
  blend(colour, iris, ball * inside(Math.hypot(ix, iy) - 0.0062, 0.0012));
  blend(colour, dark, ball * inside(Math.hypot(ix, iy) - 0.003, 0.001));
  blend(colour, [1, 1, 1], ball * inside(Math.hypot(sign * ix - 0.0018, iy - 0.0022) - 0.0011, 0.0008));
}
