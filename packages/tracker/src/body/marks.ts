import { MARK, MARK_COUNT, MARK_NAMES, type MarkName } from '@merry-shadow/core/observe/body';
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

  /** @param fine looks at the mirror image, too, and takes the mean: systematic errors of left and right cancel. */
  constructor(
    private readonly net: Net,
    private readonly fine = false,
  ) {}

  async read(picture: Picture, region: Region): Promise<BodyMarks> {
    const first = await this.look(picture, region, false);
    if (!this.fine || !(first.presence > 0.5)) return toPicture(first, region);
    const second = mirrorLook(await this.look(picture, region, true));
    return toPicture(second.presence > 0.5 ? meanLook(first, second) : first, region);
  }

  private async look(picture: Picture, region: Region, mirrored: boolean): Promise<Look> {
    const { planar } = this.net;
    cropRegion(picture, region, { size: MARKS_SIZE, range: [0, 1], planar, border: 'edge', mirrored }, this.input);
    return readOutputs(await this.net.run(this.input), planar);
  }
}

/** What the network says in the region's own axes. */
interface Look {
  presence: number;
  /** 35 × 3: place in the region, 0 … 1, and visibility; the last two are the guides. */
  places: Float64Array;
  /** 33 × 3 metres, y down, z away from the camera. */
  world: Float64Array;
}

function readOutputs([values, presence, map, world]: Float32Array[], planar: boolean): Look {
  const places = new Float64Array((MARK_COUNT + 2) * 3);
  for (let i = 0; i < MARK_COUNT + 2; i++) {
    const [u, v] = refine(map, planar, i, values[i * 5] / MARKS_SIZE, values[i * 5 + 1] / MARKS_SIZE);
    places.set([u, v, sigmoid(values[i * 5 + 3])], i * 3);
  }
  return { presence: presence[0], places, world: Float64Array.from(world.subarray(0, MARK_COUNT * 3)) };
}

function toPicture({ presence, places, world }: Look, region: Region): BodyMarks {
  const marks = new Float32Array(MARK_COUNT * 3);
  const guides: number[] = [];
  for (let i = 0; i < MARK_COUNT + 2; i++) {
    const [x, y] = regionToPicture(region, places[i * 3], places[i * 3 + 1]);
    if (i < MARK_COUNT) marks.set([x, y, places[i * 3 + 2]], i * 3);
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
  return { presence, marks, world: turned, guides: guides as BodyMarks['guides'] };
}

/** For each mark, the one that it becomes in a mirror. */
const MIRRORED = MARK_NAMES.map((name) => {
  const other = name.startsWith('left')
    ? name.replace('left', 'right')
    : name.startsWith('right')
      ? name.replace('right', 'left')
      : name.endsWith('Left')
        ? name.replace('Left', 'Right')
        : name.replace(/Right$/, 'Left');
  return MARK[other as MarkName];
});

/** A look at the mirror image as one at the picture itself. */
function mirrorLook({ presence, places, world }: Look): Look {
  const out: Look = { presence, places: places.slice(), world: world.slice() };
  for (let i = 0; i < MARK_COUNT + 2; i++) {
    const from = i < MARK_COUNT ? MIRRORED[i] : i;
    out.places.set([1 - places[from * 3], places[from * 3 + 1], places[from * 3 + 2]], i * 3);
    if (i < MARK_COUNT) out.world.set([-world[from * 3], world[from * 3 + 1], world[from * 3 + 2]], i * 3);
  }
  return out;
}

/** The mean of two looks, each weighted by how well it sees the mark. */
function meanLook(a: Look, b: Look): Look {
  const out: Look = { presence: (a.presence + b.presence) / 2, places: a.places.slice(), world: a.world.slice() };
  for (let i = 0; i < MARK_COUNT + 2; i++) {
    const [p, q] = [a.places[i * 3 + 2] + 1e-6, b.places[i * 3 + 2] + 1e-6];
    const share = q / (p + q);
    for (let k = 0; k < 3; k++) {
      const at = i * 3 + k;
      out.places[at] += (b.places[at] - a.places[at]) * (k < 2 ? share : 0.5);
      if (i < MARK_COUNT) out.world[at] += (b.world[at] - a.world[at]) * share;
    }
  }
  return out;
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
