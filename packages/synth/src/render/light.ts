import type { Lamp } from '../choreography/script';

/** One key light, a sky and a bounce from the ground. Linear light. */
export interface Light {
  /** From the scene towards the lamp. */
  toward: readonly [number, number, number];
  key: readonly [number, number, number];
  sky: readonly [number, number, number];
  ground: readonly [number, number, number];
}

const direction = [0.46, 0.78, 0.42];
const length = Math.hypot(...direction);

/** Late light over the harbour, which is there where a script names none. */
const HARBOUR: Light = {
  toward: direction.map((v) => v / length) as [number, number, number],
  key: [1.35, 1.18, 0.95],
  sky: [0.44, 0.5, 0.6],
  ground: [0.26, 0.22, 0.17],
};

/** The light that a script asks for. */
export function lightOf(lamp: Lamp | undefined): Light {
  if (!lamp) return HARBOUR;
  const [aside, above] = [lamp.aside, lamp.above].map((degrees) => (degrees * Math.PI) / 180);
  const tint = [1 + 0.2 * lamp.warmth, 1, 1 - 0.25 * lamp.warmth];
  const scaled = (colour: number, factor: number): [number, number, number] =>
    tint.map((c) => c * colour * factor) as [number, number, number];
  return {
    toward: [Math.sin(aside) * Math.cos(above), Math.sin(above), Math.cos(aside) * Math.cos(above)],
    key: scaled(1.16, lamp.key),
    sky: scaled(0.51, lamp.fill),
    ground: scaled(0.22, lamp.fill),
  };
}

/** How a surface takes the light. */
export interface Finish {
  /** How far round the lamp's light reaches, 0 … 1. */
  wrap: number;
  /** How much hollows darken, 0 … 1. */
  hollows: number;
  /** Brightness and narrowness of highlights. */
  gloss: number;
  narrow: number;
}

/** Cloth and skin of the first figures. */
export const SOFT: Finish = { wrap: 0.12, hollows: 1, gloss: 0, narrow: 1 };

/** Light on a surface: normal, how much of the lamp reaches it, how open it is. */
export function lit(
  light: Light,
  nx: number,
  ny: number,
  nz: number,
  lamp: number,
  openness: number,
  out: Float64Array,
  finish = SOFT,
): void {
  const [lx, ly, lz] = light.toward;
  const wrap = Math.max(0, (nx * lx + ny * ly + nz * lz + finish.wrap) / (1 + finish.wrap)) * lamp;
  const up = 0.5 + 0.5 * ny;
  const open = 1 - finish.hollows * (1 - openness);
  for (let c = 0; c < 3; c++) out[c] = light.key[c] * wrap + (light.sky[c] * up + light.ground[c] * (1 - up)) * open;
}

/**
 * How bright a highlight is, 0 … 1 (J. Blinn, "Models of light reflection for computer synthesized pictures", 1977).
 * @param vx,vy,vz from the surface to the camera, of any length.
 */
export function highlight(
  { toward }: Light,
  nx: number,
  ny: number,
  nz: number,
  vx: number,
  vy: number,
  vz: number,
  narrow: number,
): number {
  const far = Math.sqrt(vx * vx + vy * vy + vz * vz);
  const hx = toward[0] + vx / far;
  const hy = toward[1] + vy / far;
  const hz = toward[2] + vz / far;
  const dot = (nx * hx + ny * hy + nz * hz) / Math.sqrt(hx * hx + hy * hy + hz * hz);
  return dot > 0 ? dot ** narrow : 0;
}

const curve = Uint8Array.from({ length: 4097 }, (_, i) => {
  const v = i / 4096;
  return Math.round(255 * (v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055));
});

/** Linear light to an 8-bit sRGB value, with a soft shoulder above 0.8. */
export function toDisplay(value: number): number {
  const soft = value < 0.7 ? value : 0.7 + 0.3 * (1 - Math.exp(-(value - 0.7) / 0.3));
  return curve[Math.max(0, Math.min(4096, Math.round(soft * 4096)))];
}
