import { project, type PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { linear } from '../body/materials';
import type { Script } from '../choreography/script';
import { seededRandom } from '../random';
import { lit, type Light } from './light';

/** The place, drawn once for each camera position. */
export interface Backdrop {
  /** pixels × 3, linear light. */
  colour: Float32Array;
  /** Distance along the view, metres; Infinity for sky. */
  depth: Float32Array;
  /** pixels × 2: x, z where the pixel shows the floor; NaN elsewhere. */
  floor: Float32Array;
  /** Share of the colour that is left in full shadow. */
  shade: number;
  /** pixels × 2: x, y where the pixel shows a wall that takes shadows; NaN elsewhere. */
  wall?: Float32Array;
  /** z of that wall. */
  behind?: number;
  /** What moves by itself, see `liveTone`; 0 elsewhere. */
  live?: Uint8Array;
}

interface Box {
  low: [number, number, number];
  high: [number, number, number];
  colour: [number, number, number];
  grain: number;
}

const PIER = { x: 4.6, z: 6.2, back: -3.4, sea: -1.7 };

function box(centre: number[], size: number[], colour: string, grain = 0.12): Box {
  return {
    low: [0, 1, 2].map((i) => centre[i] - size[i] / 2) as Box['low'],
    high: [0, 1, 2].map((i) => centre[i] + size[i] / 2) as Box['high'],
    colour: linear(colour),
    grain,
  };
}

/** Railing, bollards, crates and a signal mast; all behind the acting space. */
function furniture(): Box[] {
  const boxes: Box[] = [];
  for (let x = -4.4; x <= 4.5; x += 1.46) boxes.push(box([x, 0.5, PIER.back + 0.12], [0.11, 1.05, 0.11], '#7b6048'));
  boxes.push(
    box([0, 0.98, PIER.back + 0.12], [9, 0.09, 0.07], '#8b6d50'),
    box([0, 0.52, PIER.back + 0.12], [9, 0.06, 0.05], '#8b6d50'),
  );
  boxes.push(
    box([-2.55, 0.26, -2.5], [0.62, 0.52, 0.55], '#9a7347', 0.2),
    box([-2.45, 0.72, -2.55], [0.46, 0.4, 0.42], '#a9814f', 0.2),
  );
  boxes.push(box([-1.75, 0.2, -2.75], [0.5, 0.4, 0.42], '#8f6a42', 0.2));
  boxes.push(
    box([2.7, 2.1, -2.9], [0.13, 4.2, 0.13], '#d9d2c0', 0.05),
    box([2.7, 3.1, -2.9], [1.5, 0.07, 0.07], '#d9d2c0', 0.05),
  );
  boxes.push(
    box([2.28, 2.82, -2.9], [0.4, 0.44, 0.02], '#2f6ea3', 0.04),
    box([3.1, 2.82, -2.9], [0.4, 0.44, 0.02], '#d7a533', 0.04),
  );
  for (const x of [-3.7, 1.7])
    boxes.push(
      box([x, 0.2, -2.95], [0.3, 0.4, 0.3], '#2c3236', 0.05),
      box([x, 0.43, -2.95], [0.4, 0.09, 0.4], '#353c41', 0.05),
    );
  // Far out: a breakwater with a light.
  boxes.push(
    box([-26, -0.7, -95], [60, 3.4, 4], '#6d7a84', 0.1),
    box([-8, 5.2, -95], [2.6, 9, 2.6], '#e4dccb', 0.02),
    box([-8, 10.6, -95], [3.2, 1.8, 3.2], '#a9483a', 0.02),
  );
  return boxes;
}

function hash(x: number, y: number): number {
  let h = Math.imul(Math.floor(x) | 0, 374761393) + Math.imul(Math.floor(y) | 0, 668265263);
  h = Math.imul(h ^ (h >>> 13), 1274126177);
  return ((h ^ (h >>> 16)) >>> 0) / 4294967296;
}

function noise(x: number, y: number): number {
  const ix = Math.floor(x);
  const iy = Math.floor(y);
  const fx = x - ix;
  const fy = y - iy;
  const u = fx * fx * (3 - 2 * fx);
  const v = fy * fy * (3 - 2 * fy);
  const a = hash(ix, iy) * (1 - u) + hash(ix + 1, iy) * u;
  const b = hash(ix, iy + 1) * (1 - u) + hash(ix + 1, iy + 1) * u;
  return a * (1 - v) + b * v;
}

/** A rectangle, inclusive. */
type Bounds = readonly [left: number, top: number, right: number, bottom: number];
const EVERYWHERE: Bounds = [-Infinity, -Infinity, Infinity, Infinity];

const cornersOf = ({ low, high }: Box): number[][] =>
  Array.from({ length: 8 }, (_, i) => [0, 1, 2].map((k) => ((i >> k) & 1 ? high[k] : low[k])));

const boundsOf = (points: readonly (readonly number[])[]): Bounds => {
  const [xs, ys] = [0, 1].map((k) => points.map((point) => point[k]));
  return [Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)];
};

/** The part of the picture that a box can be seen in, pixels, with a pixel to spare. */
function boundsInPicture(camera: PinholeCamera, box: Box): Bounds {
  const seen = cornersOf(box).map(([x, y, z]) => project(camera, x, y, z));
  if (seen.some(([, , depth]) => depth < 0.05)) return EVERYWHERE;
  const [left, top, right, bottom] = boundsOf(seen);
  return [left - 1, top - 1, right + 1, bottom + 1];
}

/** The part of the floor that a box can keep the light from, metres. */
function shadowOnFloor(box: Box, [lx, ly, lz]: Light['toward']): Bounds {
  const under = cornersOf(box).map(([x, y, z]) => [x - (lx / ly) * Math.max(0, y), z - (lz / ly) * Math.max(0, y)]);
  const [left, top, right, bottom] = boundsOf(under);
  return [left - 0.01, top - 0.01, right + 0.01, bottom + 0.01];
}

/** Fills `found` with the boxes whose bounds reach a place. */
function boxesAt(boxes: readonly Box[], bounds: readonly Bounds[], x: number, y: number, found: Box[]): Box[] {
  found.length = 0;
  for (let i = 0; i < boxes.length; i++) {
    const [left, top, right, bottom] = bounds[i];
    if (x >= left && x <= right && y >= top && y <= bottom) found.push(boxes[i]);
  }
  return found;
}

/** The boxes of the place with what is asked of them over and over. */
interface Furniture {
  boxes: readonly Box[];
  shadows: readonly Bounds[];
  light: Light;
}

type Hit = { t: number; normal: [number, number, number]; box: Box } | null;

function hitBoxes(boxes: readonly Box[], o: readonly number[], d: readonly number[]): Hit {
  let nearest = Infinity;
  let found: Box | null = null;
  let side = -1;
  for (const item of boxes) {
    let near = 1e-4;
    let far = nearest;
    let axis = -1;
    for (let i = 0; i < 3 && near <= far; i++) {
      const inverse = 1 / d[i];
      let a = (item.low[i] - o[i]) * inverse;
      let b = (item.high[i] - o[i]) * inverse;
      if (a > b) {
        const swap = a;
        a = b;
        b = swap;
      }
      if (a > near) {
        near = a;
        axis = i;
      }
      far = Math.min(far, b);
    }
    if (near > far || axis < 0) continue;
    [nearest, found, side] = [near, item, axis];
  }
  if (!found) return null;
  const normal: [number, number, number] = [0, 0, 0];
  normal[side] = d[side] > 0 ? -1 : 1;
  return { t: nearest, normal, box: found };
}

const PLANK = { width: 0.19, colour: linear('#9c8163') };
const HAZE = [0.62, 0.68, 0.73];
const SEA = [0.09, 0.19, 0.23];
const FAR_SEA = [0.5, 0.58, 0.62];
const LOW_SKY = [0.8, 0.74, 0.66];
const HIGH_SKY = [0.36, 0.52, 0.68];
const STUDIO = [0.3, 0.29, 0.27];
const STUDIO_WALL = [0.46, 0.46, 0.45];
const between: Box[] = [];
const light3 = new Float64Array(3);

/** Places within a pixel that rays go through, in halves: all four for a picture that stands, two for one of many. */
const CAREFUL = [0, 1, 2, 3];
const QUICK = [0, 3];

/** Draws the place by casting rays through each pixel. `plain` is a grey studio with the same floor. @param crates those on the pier that the script asks for. */
export function drawBackdrop(
  camera: PinholeCamera,
  { scene, seed, crates }: Pick<Script, 'seed' | 'crates'> & { scene: 'pier' | 'plain' },
  light: Light,
  quick = false,
): Backdrop {
  const rays = quick ? QUICK : CAREFUL;
  const { width, height } = camera;
  const backdrop: Backdrop = {
    colour: new Float32Array(width * height * 3),
    depth: new Float32Array(width * height).fill(Infinity),
    floor: new Float32Array(width * height * 2).fill(NaN),
    shade: 0.42,
  };
  const boxes = scene === 'pier' ? furniture() : [];
  for (const { place, size } of crates) boxes.push(box([place[0], size[1] / 2, place[1]], size, '#9a7347', 0.2));
  const bounds = boxes.map((item) => boundsInPicture(camera, item));
  const before: Box[] = [];
  const objects: Furniture = { boxes, shadows: boxes.map((item) => shadowOnFloor(item, light.toward)), light };
  const cloud = seededRandom(seed)() * 100;
  const colour = [0, 0, 0];
  const o = camera.position;
  const { axes } = camera;
  const d = [0, 0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      boxesAt(boxes, bounds, x + 0.5, y + 0.5, before);
      for (const s of rays) {
        // As `rayThrough`, without a new array for each ray.
        const rx = (x + 0.25 + 0.5 * (s & 1) - width / 2) / camera.focal;
        const ry = (height / 2 - (y + 0.25 + 0.5 * (s >> 1))) / camera.focal;
        for (let k = 0; k < 3; k++) d[k] = rx * axes[k] + ry * axes[3 + k] - axes[6 + k];
        const t = scene === 'pier' ? castPier(objects, before, o, d, cloud, colour) : castPlain(o, d, colour);
        for (let c = 0; c < 3; c++) backdrop.colour[at * 3 + c] += colour[c] / rays.length;
        if (s === 0) {
          backdrop.depth[at] = Math.abs(t);
          if (t > 0 && d[1] < 0 && Math.abs(o[1] + d[1] * t) < 1e-6) {
            backdrop.floor[at * 2] = o[0] + d[0] * t;
            backdrop.floor[at * 2 + 1] = o[2] + d[2] * t;
          }
        }
      }
    }
  }
  return backdrop;
}

function castPlain(o: readonly number[], d: readonly number[], colour: number[]): number {
  const t = d[1] < 0 ? -o[1] / d[1] : Infinity;
  const far = t === Infinity ? 1 : Math.min(1, Math.max(0, (t - 5) / 9));
  for (let c = 0; c < 3; c++) colour[c] = STUDIO[c] * (1 - far) + STUDIO_WALL[c] * far;
  return t;
}

/** @param before boxes that can be seen there. @returns the distance along the view in metres. */
function castPier(
  { boxes, shadows, light }: Furniture,
  before: readonly Box[],
  o: readonly number[],
  d: readonly number[],
  cloud: number,
  colour: number[],
): number {
  const hit = hitBoxes(before, o, d);
  const floorAt = d[1] < 0 ? -o[1] / d[1] : Infinity;
  const fx = o[0] + d[0] * floorAt;
  const fz = o[2] + d[2] * floorAt;
  const onPier = floorAt < Infinity && Math.abs(fx) < PIER.x && fz > PIER.back && fz < PIER.z;
  if (hit && (!onPier || hit.t < floorAt)) {
    const p = [0, 1, 2].map((i) => o[i] + d[i] * hit.t);
    const shadow =
      hit.t < 40 &&
      hitBoxes(
        boxes,
        p.map((v, i) => v + hit.normal[i] * 1e-3),
        light.toward,
      )
        ? 0
        : 1;
    lit(light, ...hit.normal, shadow, 0.9, light3);
    const streak = 1 + hit.box.grain * (noise(p[0] * 24 + p[2] * 24, p[1] * 5) - 0.5) * 2;
    const haze = Math.min(0.75, Math.max(0, (hit.t - 20) / 110));
    for (let c = 0; c < 3; c++) colour[c] = hit.box.colour[c] * light3[c] * streak * (1 - haze) + HAZE[c] * haze;
    return hit.t;
  }
  if (onPier) {
    const board = Math.floor(fx / PLANK.width);
    const seam = Math.abs(fx / PLANK.width - board - 0.5);
    const tone =
      0.8 +
      0.36 * hash(board, Math.floor((fz + hash(board, 7) * 3) / 2.4)) +
      0.14 * (noise(fx * 60, fz * 2.2 + board * 9) - 0.5);
    const shadow = hitBoxes(boxesAt(boxes, shadows, fx, fz, between), [fx, 1e-3, fz], light.toward) ? 0.1 : 1;
    lit(light, 0, 1, 0, shadow, 1, light3);
    const gap = seam > 0.47 ? 0.35 : 1;
    for (let c = 0; c < 3; c++) colour[c] = PLANK.colour[c] * light3[c] * tone * gap * 0.8;
    return floorAt;
  }
  const long = Math.hypot(d[0], d[1], d[2]);
  if (d[1] < -0.002 * long) {
    const t = (PIER.sea - o[1]) / d[1];
    const sx = o[0] + d[0] * t;
    const sz = o[2] + d[2] * t;
    const wave = noise(sx * 0.7, sz * 1.9) * 0.6 + noise(sx * 2.3 + 9, sz * 5.1) * 0.4;
    const far = Math.min(1, t / 160);
    for (let c = 0; c < 3; c++) colour[c] = SEA[c] * (0.75 + 0.7 * wave) * (1 - far) + FAR_SEA[c] * far;
    return -t;
  }
  const up = Math.max(0, d[1] / long);
  const puff =
    Math.max(
      0,
      noise((d[0] / long) * 5 + cloud, up * 16) * 0.65 + noise((d[0] / long) * 13 + cloud, up * 38) * 0.35 - 0.48,
    ) * 1.5;
  for (let c = 0; c < 3; c++) {
    const base = LOW_SKY[c] * (1 - Math.min(1, up * 2.4)) + HIGH_SKY[c] * Math.min(1, up * 2.4);
    colour[c] = base + (0.95 - base) * Math.min(0.8, puff);
  }
  return -Infinity;
}
