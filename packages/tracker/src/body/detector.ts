import { cropRegion } from '../picture/crop';
import type { Picture, Region } from '../picture/picture';
import type { Net } from '../runtime/net';

export const DETECTOR_SIZE = 224;
const CANDIDATES = 2254;
const VALUES = 12;

/** A body found in a picture. Places in pixels. */
export interface Detection {
  score: number;
  /** Box of the face and upper trunk: left, top, right, bottom. */
  box: [number, number, number, number];
  /** Hip centre, full-body circle, shoulder centre, upper circle: x, y each. */
  points: number[];
}

/** Centres of the anchor cells, 0 … 1: strides 8, 16, 32 (three layers), two anchors each. */
export function anchorCentres(): Float32Array {
  const centres: number[] = [];
  for (const [cells, anchors] of [
    [28, 2],
    [14, 2],
    [7, 6],
  ]) {
    for (let y = 0; y < cells; y++)
      for (let x = 0; x < cells; x++)
        for (let k = 0; k < anchors; k++) centres.push((x + 0.5) / cells, (y + 0.5) / cells);
  }
  return Float32Array.from(centres);
}

const ANCHORS = anchorCentres();

/** Finds bodies, best first. Weighted non-maximum suppression merges overlapping candidates. */
export class BodyDetector {
  private readonly input = new Float32Array(DETECTOR_SIZE * DETECTOR_SIZE * 3);

  constructor(private readonly net: Net) {}

  /**
   * @param region square part of the picture to search; the whole picture, letterboxed, if left out.
   * @param minScore 0 … 1.
   */
  async find(picture: Picture, region: Region = wholePicture(picture), minScore = 0.5): Promise<Detection[]> {
    cropRegion(
      picture,
      region,
      { size: DETECTOR_SIZE, range: [-1, 1], planar: this.net.planar, border: 'black' },
      this.input,
    );
    const [values, logits] = await this.net.run(this.input);
    const toX = (u: number): number => region.x + (u - 0.5) * region.size;
    const toY = (v: number): number => region.y + (v - 0.5) * region.size;
    const found: Detection[] = [];
    for (let i = 0; i < CANDIDATES; i++) {
      const score = 1 / (1 + Math.exp(-Math.max(-100, Math.min(100, logits[i]))));
      if (score < minScore) continue;
      const at = i * VALUES;
      const [ax, ay] = [ANCHORS[i * 2], ANCHORS[i * 2 + 1]];
      const x = ax + values[at] / DETECTOR_SIZE;
      const y = ay + values[at + 1] / DETECTOR_SIZE;
      const w = values[at + 2] / DETECTOR_SIZE / 2;
      const h = values[at + 3] / DETECTOR_SIZE / 2;
      const points: number[] = [];
      for (let k = 4; k < VALUES; k += 2)
        points.push(toX(ax + values[at + k] / DETECTOR_SIZE), toY(ay + values[at + k + 1] / DETECTOR_SIZE));
      found.push({ score, box: [toX(x - w), toY(y - h), toX(x + w), toY(y + h)], points });
    }
    return mergeOverlapping(found);
  }
}

export function wholePicture(picture: Picture): Region {
  return { x: picture.width / 2, y: picture.height / 2, size: Math.max(picture.width, picture.height), angle: 0 };
}

/** Share of two boxes' union that both cover. */
export function overlap(a: readonly number[], b: readonly number[]): number {
  const w = Math.min(a[2], b[2]) - Math.max(a[0], b[0]);
  const h = Math.min(a[3], b[3]) - Math.max(a[1], b[1]);
  if (w <= 0 || h <= 0) return 0;
  const area = (r: readonly number[]): number => (r[2] - r[0]) * (r[3] - r[1]);
  return (w * h) / (area(a) + area(b) - w * h);
}

/** Weighted non-maximum suppression: boxes and points are averaged by score over all that overlap the best. */
export function mergeOverlapping(found: readonly Detection[], threshold = 0.3): Detection[] {
  let rest = [...found].sort((a, b) => b.score - a.score);
  const merged: Detection[] = [];
  while (rest.length > 0) {
    const best = rest[0];
    const group = rest.filter((item) => item === best || overlap(best.box, item.box) > threshold);
    rest = rest.filter((item) => !group.includes(item));
    const total = group.reduce((sum, item) => sum + item.score, 0);
    const mean = (pick: (item: Detection) => number): number =>
      group.reduce((sum, item) => sum + item.score * pick(item), 0) / total;
    merged.push({
      score: best.score,
      box: [0, 1, 2, 3].map((i) => mean((item) => item.box[i])) as Detection['box'],
      points: best.points.map((_, i) => mean((item) => item.points[i])),
    });
  }
  return merged;
}
