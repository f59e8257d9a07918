import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { cropRegion } from '../picture/crop';
import { regionToPicture, type Picture, type Region } from '../picture/picture';
import type { Net } from '../runtime/net';

export const MARKS_SIZE = 256;
const ALL = 39;
const MAP = 64;
const REACH = 3;

/** What the mark network says of one region. */
export interface BodyMarks {
  /** 0 … 1. */
  presence: number;
  /** 33 × 3: x, y pixels, visibility 0 … 1. */
  marks: Float32Array;
  /** 33 × 3 metres round the hips, +Y up, +Z to the camera. */
  world: Float32Array;
  /** Hip centre and full-body circle, for the next region: x, y, x, y in pixels. */
  guides: [number, number, number, number];
}

const sigmoid = (value: number): number => 1 / (1 + Math.exp(-value));

/** Runs the landmark network on a region and brings its marks back to the picture. */
export class BodyMarker {
  private readonly input = new Float32Array(MARKS_SIZE * MARKS_SIZE * 3);

  constructor(private readonly net: Net) {}

  async read(picture: Picture, region: Region): Promise<BodyMarks> {
    cropRegion(
      picture,
      region,
      { size: MARKS_SIZE, range: [0, 1], planar: this.net.planar, border: 'edge' },
      this.input,
    );
    const [values, presence, map, world] = await this.net.run(this.input);
    const marks = new Float32Array(MARK_COUNT * 3);
    const guides: number[] = [];
    for (let i = 0; i < MARK_COUNT + 2; i++) {
      const [u, v] = refine(map, this.net.planar, i, values[i * 5] / MARKS_SIZE, values[i * 5 + 1] / MARKS_SIZE);
      const [x, y] = regionToPicture(region, u, v);
      if (i < MARK_COUNT) marks.set([x, y, sigmoid(values[i * 5 + 3])], i * 3);
      else guides.push(x, y);
    }
    const c = Math.cos(region.angle);
    const s = Math.sin(region.angle);
    const turned = new Float32Array(MARK_COUNT * 3);
    for (let i = 0; i < MARK_COUNT; i++) {
      const x = world[i * 3];
      const y = world[i * 3 + 1];
      turned.set([c * x - s * y, -(s * x + c * y), -world[i * 3 + 2]], i * 3);
    }
    return { presence: presence[0], marks, world: turned, guides: guides as BodyMarks['guides'] };
  }
}

/**
 * Moves a mark to the centroid of its heat map round it, if the map is sure enough there.
 * @returns place in the region, 0 … 1.
 */
export function refine(map: Float32Array, planar: boolean, mark: number, u: number, v: number): [number, number] {
  const column = Math.trunc(u * MAP);
  const row = Math.trunc(v * MAP);
  if (column < 0 || column >= MAP || row < 0 || row >= MAP) return [u, v];
  const step = planar ? 1 : ALL;
  const base = planar ? mark * MAP * MAP : mark;
  let sum = 0;
  let sumX = 0;
  let sumY = 0;
  let best = 0;
  for (let y = Math.max(0, row - REACH); y <= Math.min(MAP - 1, row + REACH); y++) {
    for (let x = Math.max(0, column - REACH); x <= Math.min(MAP - 1, column + REACH); x++) {
      const weight = sigmoid(map[base + (y * MAP + x) * step]);
      sum += weight;
      sumX += weight * x;
      sumY += weight * y;
      if (weight > best) best = weight;
    }
  }
  return best >= 0.5 && sum > 0 ? [sumX / sum / MAP, sumY / sum / MAP] : [u, v];
}
