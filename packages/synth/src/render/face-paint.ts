import { linear } from '../body/materials';

const EYE = { x: 0.0315, y: 0.07, half: 0.0145, tall: 0.0066 };
const MOUTH = { y: 0.005, half: 0.0255 };
const white = linear('#f1ece4');
const iris = linear('#3f5a55');
const dark = linear('#1a0f0c');
const tongue = linear('#5c1f1d');
const teeth = linear('#eae3d6');

/** What paints a face for one frame. */
export interface FaceState {
  /** 0 closed … 1 open. */
  mouth: number;
  /** 0 open … 1 closed. */
  eyelids: number;
  hair: readonly [number, number, number];
  skin: readonly [number, number, number];
}

// Plain functions, not closures made for each pixel: this runs for every sample of the face.
function blend(colour: Float64Array, to: readonly number[], amount: number): void {
  for (let c = 0; c < 3; c++) colour[c] += (to[c] - colour[c]) * amount;
}

/** How far a point lies inside a shape with a soft edge, 0 … 1. */
function inside(distance: number, soft: number): number {
  return Math.min(1, Math.max(0, 0.5 - distance / soft));
}

/**
 * Paints eyes, lids, brows, lips and mouth over the skin.
 * @param x,y,z place in head coordinates, metres of a 1.75 m body: +X to the performer's left, +Z ahead.
 */
export function paintFace(x: number, y: number, z: number, state: FaceState, colour: Float64Array): void {
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
    0.55 * inside(Math.hypot((ax - EYE.x) / 1.5, y - EYE.y - 0.004) - 0.0125, 0.012),
  );
  blend(colour, dark, 0.75 * inside(Math.hypot(ax - 0.0075, (y - 0.0305) * 1.6) - 0.0032, 0.003));
  const brow = Math.abs(y - (0.0915 - (ax - 0.034) ** 2 * 7)) - 0.0034 + Math.max(0, ax - 0.045) * 0.12;
  if (ax > 0.014 && ax < 0.054)
    blend(
      colour,
      state.hair.map((v) => v * 0.75),
      0.9 * inside(brow, 0.003),
    );

  const ex = ax - EYE.x;
  const ey = y - EYE.y;
  const open = EYE.tall * (1 - 0.94 * state.eyelids);
  const eye = (Math.hypot(ex / EYE.half, ey / open) - 1) * open;
  if (Math.abs(ex) < EYE.half * 1.3 && Math.abs(ey) < 0.014) {
    const lid = (Math.hypot(ex / (EYE.half * 1.1), ey / (open + 0.0016)) - 1) * open;
    blend(colour, dark, 0.85 * inside(lid, 0.0016));
    const ball = inside(eye, 0.0012);
    blend(colour, white, ball);
    blend(colour, iris, ball * inside(Math.hypot(ex, ey) - 0.0062, 0.0012));
    blend(colour, dark, ball * inside(Math.hypot(ex, ey) - 0.003, 0.001));
    blend(
      colour,
      [1, 1, 1],
      ball * inside(Math.hypot(x - Math.sign(x) * EYE.x - 0.0018, ey - 0.0022) - 0.0011, 0.0008),
    );
  }

  const my = y - MOUTH.y;
  const across = ax / MOUTH.half;
  if (across < 1.15 && Math.abs(my) < 0.022) {
    const shape = Math.sqrt(Math.max(0, 1 - across * across));
    const upperLip = 0.0072 * shape * (1 - 0.22 * Math.exp(-((ax / 0.006) ** 2)));
    const lowerLip = -0.0094 * shape;
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
