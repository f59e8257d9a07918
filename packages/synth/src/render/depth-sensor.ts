import { seededRandom } from '../random';

/** Pixels of the picture for one of the sensor, along each side. */
export const SENSOR_STEP = 2;
/** What the sensor reaches, metres. */
const NEAREST = 0.4;
const FARTHEST = 8;
/** Noise grows with the square of the distance, as in sensors that triangulate: standard deviation at one metre, metres. */
const NOISE = 0.0012;
/** Neighbouring pixels farther apart than this part of their distance are an edge. */
const EDGE = 0.02;
/** Part of the pixels along edges that mix what is before and behind, as lenses and light that comes back late do; the others tell nothing. */
const BLEEDING = 0.4;
/** Part of the pixels that tell nothing anyhow. */
const LOST = 0.01;

/**
 * What a sensor without faults tells: the nearest of what each of its pixels shows.
 * @param distance distances along the view for each pixel of the picture, metres, row by row; Infinity for sky.
 * @returns whole millimetres for each pixel of the sensor, which has half the picture's size; 0 beyond its reach.
 */
export function cleanDepth(distance: Float32Array, width: number, height: number): Uint16Array {
  const [columns, rows] = sensorSize(width, height);
  const out = new Uint16Array(columns * rows);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      let least = Infinity;
      for (let v = y * SENSOR_STEP; v < (y + 1) * SENSOR_STEP; v++)
        for (let u = x * SENSOR_STEP; u < (x + 1) * SENSOR_STEP; u++) least = Math.min(least, distance[v * width + u]);
      if (least > NEAREST && least < FARTHEST) out[y * columns + x] = Math.round(1000 * least);
    }
  }
  return out;
}

/**
 * A simulated depth sensor: noise that grows with the distance, edges that bleed or tell nothing, holes here and there.
 * @param clean what it would tell without faults, millimetres, row by row; 0 where nothing is told.
 * @returns whole millimetres, 0 where nothing is told.
 */
export function senseDepth(clean: Uint16Array, columns: number, rows: number, seed: number): Uint16Array {
  const out = new Uint16Array(clean.length);
  const random = seededRandom(seed);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const at = y * columns + x;
      const [noise, lost, bleeds, mixed] = [gaussian(random), random() < LOST, random() < BLEEDING, random()];
      if (clean[at] === 0 || lost) continue;
      let [least, most] = [clean[at], clean[at]];
      const beside = (value: number): void => {
        least = value === 0 ? least : Math.min(least, value);
        most = value === 0 ? Infinity : Math.max(most, value);
      };
      if (x > 0) beside(clean[at - 1]);
      if (x < columns - 1) beside(clean[at + 1]);
      if (y > 0) beside(clean[at - columns]);
      if (y < rows - 1) beside(clean[at + columns]);
      if (most - least <= EDGE * least)
        out[at] = Math.round(clean[at] + noise * NOISE * (clean[at] / 1000) ** 2 * 1000);
      else if (bleeds && most < Infinity) out[at] = Math.round(least + mixed * (most - least));
    }
  }
  return out;
}

/** Columns and rows of the sensor for a picture of this size. */
export const sensorSize = (width: number, height: number): [number, number] => [
  Math.floor(width / SENSOR_STEP),
  Math.floor(height / SENSOR_STEP),
];

/** A standard normal number (Box and Muller 1958). */
function gaussian(random: () => number): number {
  return Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random());
}
