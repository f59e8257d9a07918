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

/** Metres along the view before each of the 33 marks; NaN where nothing is told. */
type Depths = Float32Array;

/** The depths about all marks at a moment between two frames: the body is where it is on its way from one to the next. @returns null where it is not seen. */
function depthsAt({ marks, frames, width, height }: Observations, moment: number, map: DepthMap): Depths | null {
  const before = Math.min(frames - 1, Math.max(0, Math.floor(moment)));
  const after = Math.min(frames - 1, before + 1);
  const share = Math.min(1, Math.max(0, moment - before));
  const seen = (frame: number): boolean => Number.isFinite(marks[frame * MARK_COUNT * 3]);
  if (!(seen(before) || share === 1) || !(seen(after) || share === 0)) return null;
  const [across, down] = [map.width / width, map.height / height];
  const at = (mark: number, k: number): number => {
    const [from, until] = [before, after].map((frame) => marks[(frame * MARK_COUNT + mark) * 3 + k]);
    return share === 0 ? from : share === 1 ? until : from + (until - from) * share;
  };
  const reach = Math.max(
    LEAST_REACH,
    (REACH / TRUNK) * trunkPixels(marks, share < 0.5 || !seen(after) ? before : after) * across,
  );
  const out = new Float32Array(MARK_COUNT).fill(NaN);
  // The middle of the picture's first pixel is half a pixel in.
  for (const mark of Object.values(MARK))
    out[mark] = depthAt(map, at(mark, 0) * across - 0.5, at(mark, 1) * down - 0.5, reach);
  return out;
}

/** Between two maps depth is taken to go evenly, as long as no more time lies between them, seconds. */
const LONGEST_GAP = 0.12;

/** Fills the depths of one performer's observations from maps that come in the order of their times, whatever their rate. */
export class DepthCourse {
  private last: { moment: number; depths: Depths } | null = null;

  /** @param observations with the column `depth`, which is written to. */
  constructor(
    private readonly observations: Observations,
    private readonly rate: number,
  ) {}

  /** @param seconds of the map, from the first frame on. */
  add(map: DepthMap, seconds: number): void {
    const { frames, depth } = this.observations;
    const moment = seconds * this.rate;
    if (!depth || moment <= -1 || moment > frames) return;
    const depths = depthsAt(this.observations, moment, map);
    const { last } = this;
    this.last = depths && { moment, depths };
    if (!depths) return;
    const nearest = Math.round(moment);
    if (nearest >= 0 && nearest < frames) depth.set(depths, nearest * MARK_COUNT);
    if (!last || moment - last.moment > LONGEST_GAP * this.rate) return;
    for (let frame = Math.max(0, Math.ceil(last.moment)); frame <= Math.min(moment, frames - 1); frame++) {
      const share = (frame - last.moment) / (moment - last.moment);
      for (const mark of Object.values(MARK)) {
        const [from, until] = [last.depths[mark], depths[mark]];
        const between = share === 0 ? from : share === 1 ? until : from + (until - from) * share;
        // Where one of both tells nothing, what the nearer tells counts for its own frame alone.
        if (Number.isFinite(between)) depth[frame * MARK_COUNT + mark] = between;
      }
    }
  }
}
