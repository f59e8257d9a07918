import { bell } from '../soft-forms';
import { linear } from './materials';
import type { Surface } from './surface';
import type { Vec } from './shapes';

/** How much paler the inside of a hand is than its back: hardly for pale skin, much for dark one. */
function palmTone(skin: string): [number, number, number] {
  const [r, g, b] = linear(skin);
  const light = 0.3 * r + 0.6 * g + 0.1 * b;
  const paler = Math.min(2.8, Math.max(1, (0.4 / light) ** 0.45));
  return [paler * 1.03, paler * 0.93, paler * 0.9];
}

const mixed = (a: readonly number[], b: readonly number[], t: number): [number, number, number] =>
  [0, 1, 2].map((i) => a[i] + (b[i] - a[i]) * t) as [number, number, number];

/**
 * Colour of a place on a finger against the skin's: pads, creases, knuckles and the nail.
 * @param along 0 the knuckle … 3 the tip. @param angle from the back of the finger, radians.
 */
export function fingerTint(along: number, angle: number, thumb: boolean, skin: string): [number, number, number] {
  const up = Math.cos(angle);
  const inside = Math.min(1, Math.max(0, 0.5 - up * 1.2));
  const base = mixed([1, 1, 1], palmTone(skin), inside);
  const joints = thumb ? [1, 2] : [0.42, 1, 2];
  const crease = joints.reduce((sum, at) => sum + bell(along - at, 0.035), 0);
  const wrinkles = [0.93, 1, 1.07, 1.97, 2.03].reduce((sum, at) => sum + bell(along - at, 0.02), 0);
  const knuckle = [0, 1, 2].reduce((sum, at) => sum + bell(along - at, 0.16), 0) * (1 - inside);
  const dark = 1 - 0.32 * crease * inside - 0.1 * wrinkles * (1 - inside);
  const tone = base.map((value, i) => value * dark * (1 - [0, 0.09, 0.1][i] * knuckle)) as [number, number, number];
  // The nail, with a darker rim.
  const across = Math.abs(Math.atan2(Math.sin(angle), up)) / 0.85;
  const place = Math.hypot(across, Math.max(0, 2.62 - along) / 0.14);
  if (along < 2.44 || along > 2.93) return tone;
  const nail = Math.min(1, Math.max(0, (1.02 - place) / 0.12));
  const rim = bell(place - 1.02, 0.12) * 0.3;
  return mixed(tone, [1.2, 1.06, 1.04], nail).map((value) => value * (1 - rim)) as [number, number, number];
}

/** Colours of a palm's vertices against the skin's. @param k 1 for a left, −1 for a right hand. */
export function handTint(
  { positions, normals }: Surface,
  wrist: Vec,
  s: number,
  k: number,
  skin: string,
): Float32Array {
  const tint = new Float32Array(positions.length);
  const pale = palmTone(skin);
  for (let v = 0; v < positions.length; v += 3) {
    const x = ((positions[v] - wrist[0]) * k) / s;
    const z = (positions[v + 2] - wrist[2]) / s;
    const down = -normals[v + 1];
    const inside = Math.min(1, Math.max(0, 0.5 + down * 1.2)) * Math.min(1, Math.max(0, (x + 0.012) / 0.02));
    // The lines of heart, head and life, and the crease of the wrist.
    const lines =
      bell(x - (0.079 + 0.25 * z), 0.0022) * Number(z < 0.012) +
      bell(x - (0.062 - 0.35 * (z - 0.01)), 0.0022) * Number(z > -0.028) +
      bell(Math.hypot(x - 0.018, z - 0.03) - 0.036, 0.0022) * Number(z < 0.022) +
      bell(x, 0.002);
    const value = mixed([1, 1, 1], pale, inside);
    for (let i = 0; i < 3; i++) tint[v + i] = value[i] * (1 - 0.25 * Math.min(1, lines) * inside);
  }
  return tint;
}
