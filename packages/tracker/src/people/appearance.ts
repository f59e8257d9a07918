import type { Picture } from '../picture/picture';

/** Colours of the clothes: a share for each cell of a coarse colour cube, upper body first, then legs. */
export type Appearance = Float32Array;

const LEVELS = 4;
const CELLS = LEVELS ** 3;
const SAMPLES = 12;

/**
 * Reads the colours of a body from the picture.
 * @param hip, shoulder middles of the hips and the shoulders, pixels.
 */
export function readAppearance(
  picture: Picture,
  hip: readonly [number, number],
  shoulder: readonly [number, number],
): Appearance {
  const out = new Float32Array(CELLS * 2);
  const [ux, uy] = [shoulder[0] - hip[0], shoulder[1] - hip[1]];
  // Trunk: the middle of it. Legs: as far again downwards.
  sampleBand(picture, hip, ux, uy, 0.15, 0.85, out.subarray(0, CELLS));
  sampleBand(picture, hip, ux, uy, -0.85, -0.1, out.subarray(CELLS));
  return out;
}

function sampleBand(
  { width, height, data }: Picture,
  hip: readonly [number, number],
  ux: number,
  uy: number,
  from: number,
  until: number,
  out: Float32Array,
): void {
  let count = 0;
  for (let i = 0; i < SAMPLES; i++) {
    const along = from + ((until - from) * (i + 0.5)) / SAMPLES;
    for (let k = 0; k < SAMPLES; k++) {
      const across = ((k + 0.5) / SAMPLES - 0.5) * 0.4;
      const x = Math.floor(hip[0] + ux * along - uy * across);
      const y = Math.floor(hip[1] + uy * along + ux * across);
      if (x < 0 || y < 0 || x >= width || y >= height) continue;
      const at = (y * width + x) * 3;
      const level = (value: number): number => Math.min(LEVELS - 1, (value * LEVELS) >> 8);
      out[(level(data[at]) * LEVELS + level(data[at + 1])) * LEVELS + level(data[at + 2])]++;
      count++;
    }
  }
  if (count > 0) for (let i = 0; i < CELLS; i++) out[i] /= count;
}

/** How unlike two appearances are: 0 the same … 1 nothing in common (Hellinger distance, mean of trunk and legs). */
export function unlikeness(a: ArrayLike<number>, b: ArrayLike<number>): number {
  let sum = 0;
  for (const from of [0, CELLS]) {
    let common = 0;
    for (let i = from; i < from + CELLS; i++) common += Math.sqrt(a[i] * b[i]);
    sum += Math.sqrt(Math.max(0, 1 - common)) / 2;
  }
  return sum;
}

/** A running mean over sightings. */
export function blendAppearance(mean: Appearance, seen: Appearance, share: number): Appearance {
  return mean.map((value, i) => value + (seen[i] - value) * share);
}
