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
/** Standard normal numbers (Box and Muller 1958). */
const NORMALS = standardNormals(1 << 16);
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
    // Each row takes another stretch of the same numbers: a device must keep up with its rate.
    const stretch = Math.floor(random() * NORMALS.length);
    for (let x = 0; x < columns; x++) {
      const at = y * columns + x;
      const here = clean[at];
      if (here === 0 || random() < LOST) continue;
      const left = x > 0 ? clean[at - 1] : here;
      const right = x < columns - 1 ? clean[at + 1] : here;
      const above = y > 0 ? clean[at - columns] : here;
      const below = y < rows - 1 ? clean[at + columns] : here;
      const open = left === 0 || right === 0 || above === 0 || below === 0;
      const most = Math.max(here, left, right, above, below);
      const least = Math.min(here, left || here, right || here, above || here, below || here);
      if (!open && Math.max(most - here, here - least) <= EDGE * here)
        out[at] = Math.round(here + NORMALS[(stretch + x) % NORMALS.length] * NOISE * here * here * 0.001);
      else if (!open && random() < BLEEDING) out[at] = Math.round(least + random() * (most - least));
    }
  }
  return out;
}

/** Columns and rows of the sensor for a picture of this size. */
export const sensorSize = (width: number, height: number): [number, number] => [
  Math.floor(width / SENSOR_STEP),
  Math.floor(height / SENSOR_STEP),
];

function standardNormals(count: number): Float32Array {
  const random = seededRandom(1958);
  return Float32Array.from(
    { length: count },
    () => Math.sqrt(-2 * Math.log(1 - random())) * Math.cos(2 * Math.PI * random()),
  );
}
