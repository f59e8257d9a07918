import { MARK_COUNT, MARK } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { TRUNK, trunkPixels } from '@merry-shadow/core/observe/trunk';

/** Distances along a depth camera's axis, millimetres, row by row; 0 where nothing is told. It shows what the picture shows. */
export interface DepthMap {
  width: number;
  height: number;
  data: Uint16Array;
}

/** How far about a mark depth is looked at, metres where the body is, and pixels at least. */
const REACH = 0.025;
const LEAST_REACH = 1.5;
/** Of what lies about a mark the near side is the body's: so far behind it is another thing, metres. */
const BEHIND = 0.1;
/** Part of the pixels about a mark that must tell something. */
const LEAST_TOLD = 0.2;

/**
 * How far the surface about a place of the picture lies: the median of what is told near it, leaving out what lies far
 * behind the nearer quarter (the wall beside an arm).
 * @param x pixels of the map. @param y pixels of the map. @param reach pixels.
 * @returns metres; NaN where too little is told.
 */
export function depthAt(map: DepthMap, x: number, y: number, reach: number): number {
  const told: number[] = [];
  let looked = 0;
  for (let v = Math.ceil(y - reach); v <= y + reach; v++) {
    for (let u = Math.ceil(x - reach); u <= x + reach; u++) {
      if (Math.hypot(u - x, v - y) > reach) continue;
      looked++;
      const value = u < 0 || v < 0 || u >= map.width || v >= map.height ? 0 : map.data[v * map.width + u];
      if (value > 0) told.push(value / 1000);
    }
  }
  if (told.length === 0 || told.length < looked * LEAST_TOLD) return NaN;
  told.sort((a, b) => a - b);
  const near = told[Math.floor(told.length / 4)] + BEHIND;
  const body = told.filter((value) => value < near);
  return body[Math.floor(body.length / 2)];
}

/** Writes the depths about all marks of a frame into the observations' column; a frame without marks stays NaN. */
export function sampleDepth(observations: Observations, frame: number, map: DepthMap): void {
  const { marks, width, height, depth } = observations;
  if (!depth || !Number.isFinite(marks[frame * MARK_COUNT * 3])) return;
  const [across, down] = [map.width / width, map.height / height];
  const reach = Math.max(LEAST_REACH, (REACH / TRUNK) * trunkPixels(marks, frame) * across);
  for (const mark of Object.values(MARK)) {
    const at = frame * MARK_COUNT + mark;
    // The middle of the picture's first pixel is half a pixel in.
    depth[at] = depthAt(map, marks[at * 3] * across - 0.5, marks[at * 3 + 1] * down - 0.5, reach);
  }
}
