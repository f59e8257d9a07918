import type { PinholeCamera } from '@merry-shadow/core/camera/pinhole';
import { linear } from '../body/materials';
import type { Room } from '../choreography/script';
import { lit, type Light } from './light';
import type { Backdrop } from './pier';

/** Where things lie on the wall, metres: x from the middle to the right, y from the floor up. */
interface Patch {
  left: number;
  right: number;
  low: number;
  high: number;
  colour: [number, number, number];
}

const patch = (left: number, right: number, low: number, high: number, colour: string): Patch => ({
  left,
  right,
  low,
  high,
  colour: linear(colour),
});

const DOOR = [
  patch(1.05, 1.99, 0, 2.09, '#f1ede4'),
  patch(1.12, 1.92, 0, 2.02, '#b08a5f'),
  patch(1.2, 1.84, 1.1, 1.9, '#a67f55'),
  patch(1.2, 1.84, 0.2, 0.95, '#a67f55'),
  patch(1.17, 1.24, 1, 1.03, '#55524c'),
];
const SPARSE = [
  patch(-1.9, -1.2, 1.35, 1.9, '#4f463a'),
  patch(-1.84, -1.26, 1.41, 1.84, '#9fb3b0'),
  patch(1.6, 1.68, 0.3, 0.38, '#f4f2ec'),
];
const SHELVES = [0.5, 0.95, 1.4, 1.85].flatMap((height, row) => [
  patch(-2.9, -1.5, height - 0.03, height, '#6b5138'),
  ...Array.from({ length: 13 }, (_, i) =>
    patch(
      -2.88 + i * 0.105,
      -2.79 + i * 0.105,
      height,
      height + 0.22 + 0.07 * ((i * 7 + row * 3) % 4),
      ['#8a3b32', '#2f4d63', '#c9b37a', '#556b3f', '#d8d2c4', '#3b3340'][(i * 5 + row * 2) % 6],
    ),
  ),
]);

/** The things on the wall of each kind of room. */
const THINGS: Record<Room['things'], Patch[]> = {
  none: [],
  door: DOOR,
  sparse: SPARSE,
  furnished: [...DOOR, ...SHELVES, patch(-0.9, -0.1, 1.5, 2.1, '#33414a'), patch(-0.84, -0.16, 1.56, 2.04, '#c5986a')],
};

/** What moves by itself: a curtain on the left, a screen on the right. */
const CURTAIN = patch(-2.7, -1.3, 0.06, 2.3, '#b9a88c');
const SCREEN = patch(1.2, 2.1, 0.95, 1.5, '#20242a');
export const CURTAIN_AREA = 1;
export const SCREEN_AREA = 2;
/** Above it the wall is bare, metres. */
const HIGHEST = 2.3;
const SKIRTING = 0.09;
const RUG = { width: 1.5, near: 1.1, far: -0.9 };

const inside = ({ left, right, low, high }: Patch, x: number, y: number): boolean =>
  x >= left && x <= right && y >= low && y <= high;

/** Draws a room of one wall and a floor by casting rays through each pixel: four, or two where it is one of many pictures. */
export function drawRoom(camera: PinholeCamera, room: Room, light: Light, quick = false): Backdrop {
  const rays = quick ? [0, 3] : [0, 1, 2, 3];
  const { width, height, axes, position: o } = camera;
  const backdrop: Backdrop = {
    colour: new Float32Array(width * height * 3),
    depth: new Float32Array(width * height).fill(Infinity),
    floor: new Float32Array(width * height * 2).fill(NaN),
    wall: new Float32Array(width * height * 2).fill(NaN),
    live: new Uint8Array(width * height),
    behind: -room.wall,
    shade: 0.5,
  };
  const wall = new Float64Array(3);
  const ground = new Float64Array(3);
  lit(light, 0, 0, 1, 1, 0.95, wall);
  lit(light, 0, 1, 0, 1, 0.95, ground);
  const paint = linear(room.paint);
  const boards = linear(room.floor);
  const white = linear('#efece5');
  const d = [0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const at = y * width + x;
      for (const s of rays) {
        const rx = (x + 0.25 + 0.5 * (s & 1) - width / 2) / camera.focal;
        const ry = (height / 2 - (y + 0.25 + 0.5 * (s >> 1))) / camera.focal;
        for (let k = 0; k < 3; k++) d[k] = rx * axes[k] + ry * axes[3 + k] - axes[6 + k];
        const toFloor = d[1] < 0 ? -o[1] / d[1] : Infinity;
        const toWall = d[2] < 0 ? (-room.wall - o[2]) / d[2] : Infinity;
        const t = Math.min(toFloor, toWall);
        const [px, py, pz] = [o[0] + d[0] * t, o[1] + d[1] * t, o[2] + d[2] * t];
        const onFloor = toFloor <= toWall;
        const colour = onFloor ? floorColour(room, boards, px, pz) : wallColour(room, paint, white, px, py);
        const shine = onFloor ? ground : wall;
        const dimmer = 1 - room.gradient * Math.max(0, Math.min(1, 0.5 - px / 6));
        for (let c = 0; c < 3; c++) backdrop.colour[at * 3 + c] += (colour[c] * shine[c] * dimmer * 0.8) / rays.length;
        if (s > 0 || t === Infinity) continue;
        backdrop.depth[at] = t;
        (onFloor ? backdrop.floor : (backdrop.wall as Float32Array)).set([px, onFloor ? pz : py], at * 2);
        if (onFloor) continue;
        if (room.curtain && inside(CURTAIN, px, py)) (backdrop.live as Uint8Array)[at] = CURTAIN_AREA;
        if (room.screen && inside(SCREEN, px, py)) (backdrop.live as Uint8Array)[at] = SCREEN_AREA;
      }
    }
  return backdrop;
}

function floorColour({ things }: Room, base: readonly number[], x: number, z: number): readonly number[] {
  if (things !== 'furnished') return base;
  const onRug = Math.abs(x) < RUG.width && z < RUG.near && z > RUG.far;
  const tone = onRug
    ? 0.7 + 0.5 * Math.abs(Math.sin(x * 9) * Math.sin(z * 9))
    : Math.abs(((x / 0.14) % 1) + (x < 0 ? 1 : 0)) > 0.93
      ? 0.6
      : 1;
  return base.map((value, c) => value * tone * (onRug && c === 0 ? 1.4 : 1));
}

function wallColour(
  { things, skirting }: Room,
  paint: readonly number[],
  white: readonly number[],
  x: number,
  y: number,
): readonly number[] {
  const list = THINGS[things];
  if (y < HIGHEST) for (let i = list.length - 1; i >= 0; i--) if (inside(list[i], x, y)) return list[i].colour;
  return skirting && y < SKIRTING ? white : paint;
}

/** How bright what moves by itself is against how it stands, at a place on the wall and a time. @param seconds from the start. */
export function liveTone(area: number, x: number, y: number, seconds: number): number {
  if (area === CURTAIN_AREA) {
    const drift = 0.12 * Math.sin(seconds * 1.7) * (2.3 - y) + 0.05 * Math.sin(seconds * 4.1 + y * 2);
    return 0.75 + 0.25 * Math.sin((x + drift) * 32);
  }
  const shot = Math.floor(seconds / 1.3);
  return (
    1 + 5 * Math.abs(Math.sin(x * (7 + (shot % 5)) + seconds * 3) * Math.sin(y * (9 + (shot % 3)) - seconds * 2 + shot))
  );
}
