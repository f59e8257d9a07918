import { mat3 } from 'gl-matrix';
import { cameraMotionMap } from '@merry-shadow/core/camera/camera-motion';
import { within, type Box } from './box';
import type { GreyLevel } from './grey-levels';

/**
 * Points of a key frame by whose brightness its movement can be told, seven numbers each: place from the middle of the
 * picture (x, y in focal lengths), brightness, and how it changes with a movement of the middle right and down (pixels), a
 * turn, and growth.
 */
export type TellingPoints = Float64Array;
const STRIDE = 7;

/** The picture is cut into so many cells, each of which tells by its most telling points. */
const COLUMNS = 16;
const ROWS = 10;
const OF_EACH = 4;
/** Least slope of brightness that counts, grey levels for a pixel of the level. */
const LEAST_SLOPE = 2;
/** Least standard deviation of brightness that is believed: what compression makes. */
const LEAST_SPREAD = 1.5;
/** Deviations beyond which a point does not count (J. W. Tukey's biweight). */
const BEYOND = 4.685;
/** Of so many points one is asked for the spread of all. */
const SAMPLED = 3;
/** Movements of the middle, pixels, below which a step is the last. */
const SETTLED = 0.04;

/** Chooses the points of a key frame's level that tell most, evenly over the picture and beside the people. */
export function tellingPoints(level: GreyLevel, focal: number, people: readonly Box[]): TellingPoints {
  const { width, height, data, step } = level;
  const cells = Array.from({ length: COLUMNS * ROWS }, () => [] as number[]);
  const across = (at: number): number => (data[at + 1] - data[at - 1]) / 2;
  const down = (at: number): number => (data[at + width] - data[at - width]) / 2;
  const strength = (at: number): number => Math.abs(across(at)) + Math.abs(down(at));
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      if (strength(at) < LEAST_SLOPE || within(people, (x + 0.5) * step, (y + 0.5) * step)) continue;
      cells[Math.floor((y / height) * ROWS) * COLUMNS + Math.floor((x / width) * COLUMNS)].push(at);
    }
  }
  const chosen = cells.flatMap((cell) => cell.sort((a, b) => strength(b) - strength(a)).slice(0, OF_EACH));
  const points = new Float64Array(chosen.length * STRIDE);
  const scale = step / focal;
  chosen.forEach((at, i) => {
    const u = ((at % width) + 0.5 - width / 2) * scale;
    const v = (Math.floor(at / width) + 0.5 - height / 2) * scale;
    // Change of brightness for a movement by one focal length.
    const [gx, gy] = [across(at) / scale, down(at) / scale];
    points.set(
      [
        u,
        v,
        data[at],
        (gx * (1 + u * u) + gy * u * v) / focal,
        (gx * u * v + gy * (1 + v * v)) / focal,
        gy * u - gx * v,
        gx * u + gy * v,
      ],
      i * STRIDE,
    );
  });
  return points;
}

/** What a registration is worth. */
export interface Told {
  count: number;
  alike: number;
  firm: number;
}

/**
 * Lays a level over the points of a key frame. Changes the map in place.
 * @param map from the key frame to the level, see `cameraMotionMap`.
 * @returns how many points counted, the correlation of their brightness in both frames, and how firmly the points hold
 * the picture in the direction in which they do so least: 1 where a slope that hardly counts would, too.
 */
export function registerLevel(
  level: GreyLevel,
  points: TellingPoints,
  map: mat3,
  focal: number,
  people: readonly Box[],
  steps: number,
): Told {
  const off = new Float64Array(points.length / STRIDE);
  let result: Told = { alike: 0, count: 0, firm: 0 };
  for (let step = 0; step < steps; step++) {
    const [median, spread] = compare(level, points, map, focal, people, off);
    const { solution, ...told } = solveStep(points, off, median, spread, holdBack(level));
    result = told;
    if (!solution) return { alike: 0, count: 0, firm: 0 };
    const moved = cameraMotionMap([solution[0], solution[1], solution[2], solution[3]], focal);
    mat3.multiply(map, map, mat3.invert(mat3.create(), moved) as mat3);
    if (Math.hypot(solution[0], solution[1], solution[2] * focal) < SETTLED) break;
  }
  return result;
}

/**
 * How much brighter each point is now, NaN where it lies outside the picture or within people.
 * @returns the median, and the standard deviation by the median of deviations from it (F. R. Hampel, 1974).
 */
function compare(
  { width, height, data, step }: GreyLevel,
  points: TellingPoints,
  m: mat3,
  focal: number,
  people: readonly Box[],
  off: Float64Array,
): [median: number, spread: number] {
  const scale = focal / step;
  const [m0, m1, m2, m3, m4, m5, m6, m7, m8] = m;
  const known = new Float64Array(Math.ceil(off.length / SAMPLED));
  let count = 0;
  for (let i = 0; i < off.length; i++) {
    const x = points[i * STRIDE];
    const y = points[i * STRIDE + 1];
    const w = m2 * x + m5 * y + m8;
    const px = ((m0 * x + m3 * y + m6) / w) * scale + width / 2 - 0.5;
    const py = ((m1 * x + m4 * y + m7) / w) * scale + height / 2 - 0.5;
    off[i] = NaN;
    if (!(px >= 0 && py >= 0 && px < width - 1 && py < height - 1)) continue;
    if (within(people, (px + 0.5) * step, (py + 0.5) * step)) continue;
    const x0 = Math.floor(px);
    const y0 = Math.floor(py);
    const u = px - x0;
    const v = py - y0;
    const at = y0 * width + x0;
    const above = data[at] * (1 - u) + data[at + 1] * u;
    const below = data[at + width] * (1 - u) + data[at + width + 1] * u;
    off[i] = above * (1 - v) + below * v - points[i * STRIDE + 2];
    if (i % SAMPLED === 0) known[count++] = off[i];
  }
  if (count === 0) return [NaN, NaN];
  const sorted = known.subarray(0, count).sort();
  const median = sorted[count >> 1];
  for (let i = 0; i < count; i++) sorted[i] = Math.abs(sorted[i] - median);
  return [median, Math.max(LEAST_SPREAD, 1.4826 * sorted.sort()[count >> 1])];
}

/**
 * What a point of a slope that hardly counts would tell, for each movement: a step goes as far as the points tell more
 * than that. So a movement that nothing in the picture shows (along a single line, say) is not made up from noise
 * (K. Levenberg, 1944).
 */
function holdBack({ step, width, height }: GreyLevel): readonly number[] {
  const slope = (HARDLY * LEAST_SLOPE) / step;
  const reach = (Math.hypot(width, height) * step) / 4;
  return [slope ** 2, slope ** 2, (slope * reach) ** 2, (GROWS_SELDOM * slope * reach) ** 2];
}
/** Few lenses zoom: growth is held back more than turns, times. */
const GROWS_SELDOM = 2;
const HARDLY = 6;
/** How firmly a picture is held that needs no holding back. */
const WEAK = 0.2;

/** Unknowns of a step: the four movements and the exposure. */
const SIZE = 5;
const ROW = SIZE + 1;
const equations = new Float64Array(SIZE * ROW);
const slope = new Float64Array(SIZE);

/** One weighted least-squares step. */
function solveStep(
  points: TellingPoints,
  off: Float64Array,
  median: number,
  spread: number,
  held: readonly number[],
): Told & { solution: number[] | null } {
  equations.fill(0);
  slope[4] = 1;
  let [count, sum, own, now, square, cross, ownSquare] = [0, 0, 0, 0, 0, 0, 0];
  for (let i = 0; i < off.length; i++) {
    const value = off[i];
    const z = (value - median) / (BEYOND * spread);
    if (!(Math.abs(z) < 1)) continue;
    const weight = (1 - z * z) * (1 - z * z);
    for (let k = 0; k < 4; k++) slope[k] = points[i * STRIDE + 3 + k];
    for (let r = 0; r < SIZE; r++) {
      const left = weight * slope[r];
      for (let c = r; c < SIZE; c++) equations[r * ROW + c] += left * slope[c];
      equations[r * ROW + SIZE] += left * value;
    }
    const brightness = points[i * STRIDE + 2];
    const later = brightness + value;
    count++;
    sum += weight;
    own += weight * brightness;
    now += weight * later;
    ownSquare += weight * brightness * brightness;
    square += weight * later * later;
    cross += weight * brightness * later;
  }
  for (let r = 1; r < SIZE; r++) for (let c = 0; c < r; c++) equations[r * ROW + c] = equations[c * ROW + r];
  const firm = Math.min(information(0), information(1)) / (held[0] * sum);
  const hold = sum / (1 + (firm / WEAK) ** 2);
  for (let k = 0; k < held.length; k++) equations[k * ROW + k] += held[k] * hold;
  const varies = (ownSquare - (own * own) / sum) * (square - (now * now) / sum);
  return {
    solution: count > SIZE ? eliminate(equations) : null,
    alike: varies > 0 ? (cross - (own * now) / sum) / Math.sqrt(varies) : 0,
    count,
    firm,
  };
}

const trial = new Float64Array(SIZE * ROW);

/** What the equations know of one unknown when all others are open: the inverse of its variance. */
function information(of: number): number {
  trial.set(equations);
  for (let r = 0; r < SIZE; r++) trial[r * ROW + SIZE] = r === of ? 1 : 0;
  const variance = eliminate(trial)?.[of];
  return variance && variance > 0 ? 1 / variance : 0;
}

/** Solves positive definite equations, the right sides as last column, in place (Gauss); null when they are singular. */
function eliminate(rows: Float64Array): number[] | null {
  for (let k = 0; k < SIZE; k++) {
    if (!(rows[k * ROW + k] > 1e-9)) return null;
    for (let r = 0; r < SIZE; r++) {
      if (r === k) continue;
      const factor = rows[r * ROW + k] / rows[k * ROW + k];
      for (let c = k; c < ROW; c++) rows[r * ROW + c] -= factor * rows[k * ROW + c];
    }
  }
  return Array.from({ length: SIZE }, (_, k) => rows[k * ROW + SIZE] / rows[k * ROW + k]);
}
