import { seededRandom } from '../random';

/** Pixels of the picture for one of the sensor, along each side. */
export const SENSOR_STEP = 2;
/** What the sensor reaches, metres. */
const NEAREST = 0.4;
const FARTHEST = 8;
/** Noise grows with the square of the distance, as in sensors that triangulate: standard deviation at one metre, metres. */
const NOISE = 0.0012;
/** Neighbouring pixels farther apart than this part of their distance are an edge, where nothing is told. */
const EDGE = 0.02;
/** Part of the pixels that tell nothing anyhow. */
const LOST = 0.01;

/**
 * A simulated depth camera that looks through the colour camera's lens, at half its size: noise that grows with the
 * distance, whole millimetres, holes along edges and here and there, nothing beyond its reach.
 * @param distance distances along the view for each pixel of the picture, metres, row by row; Infinity for sky.
 * @returns millimetres for each pixel of the sensor, 0 where nothing is told.
 */
export function senseDepth(distance: Float32Array, width: number, height: number, seed: number): Uint16Array {
  const [columns, rows] = sensorSize(width, height);
  const out = new Uint16Array(columns * rows);
  const random = seededRandom(seed);
  for (let y = 0; y < rows; y++) {
    for (let x = 0; x < columns; x++) {
      const noise = gaussian(random);
      const lost = random() < LOST;
      let least = Infinity;
      let most = 0;
      for (let v = y * SENSOR_STEP; v < (y + 1) * SENSOR_STEP; v++) {
        for (let u = x * SENSOR_STEP; u < (x + 1) * SENSOR_STEP; u++) {
          const d = distance[v * width + u];
          least = Math.min(least, d);
          most = Math.max(most, d);
        }
      }
      if (lost || !(least > NEAREST && most < FARTHEST) || most - least > EDGE * least) continue;
      const middle = (least + most) / 2;
      out[y * columns + x] = Math.round(1000 * (middle + noise * NOISE * middle * middle));
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
