import { MARK, type MarkName } from '@merry-shadow/core/observe/body';
import { boxRound } from '../background/box';
import type { Picture } from '../picture/picture';
import { luma } from './picture-measures';

/** Limbs whose contrast is told, and the trunk's sides. */
const LIMBS: readonly (readonly [MarkName, MarkName])[] = (['left', 'right'] as const).flatMap((side) => [
  [`${side}Shoulder`, `${side}Elbow`],
  [`${side}Elbow`, `${side}Wrist`],
  [`${side}Hip`, `${side}Knee`],
  [`${side}Knee`, `${side}Ankle`],
]);
/** Places along a limb, and how far beside it the background is looked at: parts of the body's height. */
const PLACES = [0.25, 0.5, 0.75];
const BESIDE = 0.075;
/** Edges that are measured: grey levels from one side to the other, at least, and rows between two that are asked. */
const EDGE = 30;
const ROWS = 3;
/** Width of an edge that is as sharp as pixels can be, pixels. */
const SHARPEST = 1.8;
const WHITE = 251;

/** Marks 33 × (x, y, visibility), and the body's height in pixels. */
export interface BodyInPicture {
  marks: ArrayLike<number>;
  tall: number;
}

type Colour = [number, number, number];

/** Mean brightness of a body, 0 … 255, and the part of it that is burnt out to white, 0 … 1. */
export function bodyLight(picture: Picture, { marks, tall }: BodyInPicture): { light: number; burnt: number } | null {
  let [sum, white, count] = [0, 0, 0];
  const lines: (readonly [MarkName, MarkName])[] = [
    ...LIMBS,
    ['leftShoulder', 'rightHip'],
    ['rightShoulder', 'leftHip'],
    ['leftShoulder', 'leftHip'],
    ['rightShoulder', 'rightHip'],
  ];
  const spread = Math.max(1, Math.round(0.01 * tall));
  for (const [a, b] of lines)
    for (const place of PLACES) {
      const [x, y] = alongLine(marks, a, b, place);
      for (const [dx, dy] of [
        [0, 0],
        [spread, 0],
        [-spread, 0],
        [0, spread],
        [0, -spread],
      ]) {
        const at = pixelAt(picture, x + dx, y + dy);
        if (at < 0) continue;
        const level = luma(picture.data, at);
        sum += level;
        white += level >= WHITE ? 1 : 0;
        count++;
      }
    }
  return count > 0 ? { light: sum / count, burnt: white / count } : null;
}

/** How unlike limbs are to what is beside them: CIE 1976 colour difference, the median over all places. */
export function limbContrast(picture: Picture, { marks, tall }: BodyInPicture): number | null {
  const found: number[] = [];
  const beside = BESIDE * tall;
  for (const [a, b] of LIMBS) {
    const [dx, dy] = [marks[MARK[b] * 3] - marks[MARK[a] * 3], marks[MARK[b] * 3 + 1] - marks[MARK[a] * 3 + 1]];
    const length = Math.hypot(dx, dy);
    // A limb along the view has no sides.
    if (!(length > 0.06 * tall)) continue;
    const [nx, ny] = [-dy / length, dx / length];
    for (const place of PLACES) {
      const [x, y] = alongLine(marks, a, b, place);
      const own = meanColour(picture, x, y, tall);
      const sides = [-1, 1].map((sign) => meanColour(picture, x + sign * nx * beside, y + sign * ny * beside, tall));
      if (!own) continue;
      // One side may be the body itself, or the other limb: the more unlike one counts.
      const apart = sides.flatMap((side) => (side ? [difference(own, side)] : []));
      if (apart.length > 0) found.push(Math.max(...apart));
    }
  }
  return found.length > 0 ? found.sort((a, b) => a - b)[found.length >> 1] : null;
}

/** Width of edges at a body beyond that of sharp pixels, parts of its height; null where it has no edges. */
export function edgeWidth({ width, height, data }: Picture, { marks, tall }: BodyInPicture): number | null {
  const box = boxRound(marks);
  const [left, right] = [Math.max(2, Math.floor(box.left)), Math.min(width - 3, Math.ceil(box.right))];
  const [top, bottom] = [Math.max(0, Math.floor(box.top)), Math.min(height, Math.ceil(box.bottom))];
  const widths: number[] = [];
  const most = Math.max(8, 0.08 * tall);
  for (let y = top; y < bottom; y += ROWS) {
    const row = y * width;
    const level = (x: number): number => data[(row + x) * 3 + 1];
    for (let x = left; x < right; x++) {
      const slope = (level(x + 1) - level(x - 1)) / 2;
      const amount = Math.abs(slope);
      if (
        amount < 4 ||
        amount < Math.abs(level(x + 2) - level(x)) / 2 ||
        amount <= Math.abs(level(x) - level(x - 2)) / 2
      )
        continue;
      const sign = Math.sign(slope);
      let [from, until] = [x, x];
      while (from > 0 && x - from < most && (level(from) - level(from - 1)) * sign > 0) from--;
      while (until < width - 1 && until - x < most && (level(until + 1) - level(until)) * sign > 0) until++;
      const rise = Math.abs(level(until) - level(from));
      if (rise >= EDGE) widths.push(rise / amount);
    }
  }
  if (widths.length < 20) return null;
  const middle = widths.sort((a, b) => a - b)[widths.length >> 1];
  return Math.sqrt(Math.max(0, middle ** 2 - SHARPEST ** 2)) / tall;
}

function alongLine(marks: ArrayLike<number>, a: MarkName, b: MarkName, place: number): [number, number] {
  const [i, k] = [MARK[a] * 3, MARK[b] * 3];
  return [marks[i] + place * (marks[k] - marks[i]), marks[i + 1] + place * (marks[k + 1] - marks[i + 1])];
}

function pixelAt({ width, height }: Picture, x: number, y: number): number {
  const [i, k] = [Math.round(x), Math.round(y)];
  return i >= 0 && k >= 0 && i < width && k < height ? (k * width + i) * 3 : -1;
}

/** Mean over a small square. */
function meanColour(picture: Picture, x: number, y: number, tall: number): Colour | null {
  const reach = Math.max(1, Math.round(0.006 * tall));
  const sum: Colour = [0, 0, 0];
  let count = 0;
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++) {
      const at = pixelAt(picture, x + dx, y + dy);
      if (at < 0) continue;
      for (let k = 0; k < 3; k++) sum[k] += picture.data[at + k];
      count++;
    }
  return count > 0 ? (sum.map((value) => value / count) as Colour) : null;
}

/** CIE 1976 difference of two colours of the screen (IEC 61966-2-1, D65). */
function difference(a: Colour, b: Colour): number {
  const [p, q] = [lab(a), lab(b)];
  return Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2]);
}

function lab(colour: Colour): Colour {
  const [r, g, b] = colour.map((value) => {
    const part = value / 255;
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4;
  });
  const [x, y, z] = [
    (0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505,
    0.2126 * r + 0.7152 * g + 0.0722 * b,
    (0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.089,
  ].map((value) => (value > 0.008856 ? Math.cbrt(value) : 7.787 * value + 16 / 116));
  return [116 * y - 16, 500 * (x - y), 200 * (y - z)];
}
