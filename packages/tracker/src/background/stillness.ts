import type { mat3 } from 'gl-matrix';
import { within, type Box } from './box';
import type { GreyLevel } from './grey-levels';

/** Points of one cell of a key frame, by whose brightness it is told whether they stand where they stood. */
export interface TestCell {
  column: number;
  row: number;
  /** Where each point lies in the level's data. */
  at: Int32Array;
}

/** What the cells of the picture say of a frame: how many are told better by a movement, and how many by standing still. */
export interface Weighed {
  /** Cells that could be compared. */
  cells: number;
  moved: number;
  still: number;
  /** Columns and rows of thirds of the picture in which cells say that it moved: left, middle, right; above, middle, below. */
  across: readonly [number, number, number];
  down: readonly [number, number, number];
}

const COLUMNS = 16;
const ROWS = 10;
const MOST = 16;
const LEAST = 6;
/** Least slope of brightness that counts, grey levels for a pixel of the level. */
const LEAST_SLOPE = 2.5;
/** Least variance of brightness that is believed: what compression makes. */
const LEAST_NOISE = 1.5 ** 2;
/** A cell speaks for one of both when it is so much likelier (logarithm of the likelihood ratio). */
const TELLING = 3;

/** So many cells must say that the picture moved, of all, and in two thirds of its width; hardly any that it stood still. */
const LEAST_CELLS = 5;
const LEAST_MOVED = 0.4;
const MOST_STILL = 0.15;
const LEAST_OF_THIRD = 2;

/** Whether a frame proves that the camera moved: hardly anything stands where it stood, and not in one corner only. */
export function provesMovement({ cells, moved, still, across }: Weighed): boolean {
  return (
    moved >= Math.max(LEAST_CELLS, LEAST_MOVED * cells) &&
    still <= MOST_STILL * moved &&
    across.filter((count) => count >= LEAST_OF_THIRD).length > 1
  );
}

/** Chooses the points of a key frame's finest level that would show a movement, cell by cell, beside the people. */
export function testCells(level: GreyLevel, people: readonly Box[]): TestCell[] {
  const { width, height, data, step } = level;
  const cells = Array.from({ length: COLUMNS * ROWS }, () => [] as number[]);
  const strength = (at: number): number =>
    Math.abs(data[at + 1] - data[at - 1]) / 2 + Math.abs(data[at + width] - data[at - width]) / 2;
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const at = y * width + x;
      if (strength(at) < LEAST_SLOPE || within(people, (x + 0.5) * step, (y + 0.5) * step)) continue;
      cells[Math.floor((y / height) * ROWS) * COLUMNS + Math.floor((x / width) * COLUMNS)].push(at);
    }
  return cells.flatMap((cell, i) => {
    const chosen = cell.sort((a, b) => strength(b) - strength(a)).slice(0, MOST);
    if (chosen.length < LEAST) return [];
    return [{ column: i % COLUMNS, row: Math.floor(i / COLUMNS), at: Int32Array.from(chosen) }];
  });
}

/**
 * Weighs for each cell whether its points stand where they stood in the key frame, or lie where a movement of the whole
 * picture would have brought them: by the squares of the differences of brightness, less their mean (light that
 * changes), against the noise of the better one.
 * @param key the key frame's finest level.
 * @param map from the key frame to this one, see `cameraMotionMap`.
 */
export function weighStillness(
  level: GreyLevel,
  key: GreyLevel,
  cells: readonly TestCell[],
  map: mat3,
  focal: number,
  people: readonly Box[],
): Weighed {
  const told: { cell: TestCell; stood: number; moved: number; noise: number }[] = [];
  for (const cell of cells) {
    const result = compareCell(level, key, cell, map, focal, people);
    if (result) told.push({ cell, ...result });
  }
  const across: [number, number, number] = [0, 0, 0];
  const down: [number, number, number] = [0, 0, 0];
  if (told.length === 0) return { cells: 0, moved: 0, still: 0, across, down };
  const noises = Float64Array.from(told, ({ noise }) => noise).sort();
  const noise = Math.max(LEAST_NOISE, noises[noises.length >> 1]);
  let [moved, still] = [0, 0];
  for (const { cell, stood, moved: rest } of told) {
    const telling = (stood - rest) / (2 * noise);
    if (telling < -TELLING) still++;
    if (telling <= TELLING) continue;
    moved++;
    across[Math.floor((cell.column * 3) / COLUMNS)]++;
    down[Math.floor((cell.row * 3) / ROWS)]++;
  }
  return { cells: told.length, moved, still, across, down };
}

/** Sums of squares of a cell's differences under both suppositions, and the variance under the better one. */
function compareCell(
  { width, height, data, step }: GreyLevel,
  key: GreyLevel,
  { at }: TestCell,
  m: mat3,
  focal: number,
  people: readonly Box[],
): { stood: number; moved: number; noise: number } | null {
  const scale = step / focal;
  let count = 0;
  const [stood, moved] = [new Sum(), new Sum()];
  for (const place of at) {
    const x = place % width;
    const y = Math.floor(place / width);
    if (within(people, (x + 0.5) * step, (y + 0.5) * step)) continue;
    const [u, v] = [(x + 0.5 - width / 2) * scale, (y + 0.5 - height / 2) * scale];
    const w = m[2] * u + m[5] * v + m[8];
    const px = (m[0] * u + m[3] * v + m[6]) / w / scale + width / 2 - 0.5;
    const py = (m[1] * u + m[4] * v + m[7]) / w / scale + height / 2 - 0.5;
    if (!(px >= 0 && py >= 0 && px < width - 1 && py < height - 1)) continue;
    if (within(people, (px + 0.5) * step, (py + 0.5) * step)) continue;
    const [x0, y0] = [Math.floor(px), Math.floor(py)];
    const [a, b] = [px - x0, py - y0];
    const i = y0 * width + x0;
    const above = data[i] * (1 - a) + data[i + 1] * a;
    const below = data[i + width] * (1 - a) + data[i + width + 1] * a;
    stood.add(data[place] - key.data[place]);
    moved.add(above * (1 - b) + below * b - key.data[place]);
    count++;
  }
  if (count < LEAST) return null;
  const [s, r] = [stood.squares, moved.squares];
  return { stood: s, moved: r, noise: Math.min(s, r) / (count - 1) };
}

/** Squares about the mean. */
class Sum {
  private count = 0;
  private sum = 0;
  private square = 0;

  add(value: number): void {
    this.count++;
    this.sum += value;
    this.square += value * value;
  }

  get squares(): number {
    return Math.max(0, this.square - (this.sum * this.sum) / this.count);
  }
}
