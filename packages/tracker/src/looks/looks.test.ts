import { MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import type { Picture } from '../picture/picture';
import { COLUMNS, ROWS } from '../picture/small-picture';
import { bodyLight, edgeWidth, limbContrast } from './body-measures';
import { CameraSpeed } from './camera-speed';
import { frameChanges } from './frame-changes';
import { brightness, noiseLevel } from './picture-measures';

const WIDTH = 320;
const HEIGHT = 240;
type Colour = readonly [number, number, number];

/** Numbers without chance, −1 … 1. */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 31 - 1;
  };
}

function picture(colour: (x: number, y: number) => Colour): Picture {
  const data = new Uint8Array(WIDTH * HEIGHT * 3);
  for (let i = 0; i < WIDTH * HEIGHT; i++)
    data.set(
      colour(i % WIDTH, Math.floor(i / WIDTH)).map((value) => Math.min(255, Math.max(0, value))),
      i * 3,
    );
  return { width: WIDTH, height: HEIGHT, data };
}

/** Somebody with arms out to the sides, 180 pixels tall. */
const PLACES: Partial<Record<MarkName, [number, number]>> = {
  leftShoulder: [180, 70],
  rightShoulder: [140, 70],
  leftElbow: [215, 70],
  rightElbow: [105, 70],
  leftWrist: [250, 70],
  rightWrist: [70, 70],
  leftHip: [172, 130],
  rightHip: [148, 130],
  leftKnee: [172, 170],
  rightKnee: [148, 170],
  leftAnkle: [172, 210],
  rightAnkle: [148, 210],
};
const marks = new Float32Array(MARK_COUNT * 3).map((_, i) => [160, 100, 1][i % 3]);
for (const [name, place] of Object.entries(PLACES)) marks.set([...place, 1], MARK[name as MarkName] * 3);
const body = { marks, tall: 180 };

/** Whether a place is the body: bars of some pixels along its bones. */
function isBody(x: number, y: number): boolean {
  if (x > 64 && x < 256 && Math.abs(y - 70) < 8) return true;
  if (x > 140 && x < 180 && y >= 62 && y < 135) return true;
  return (Math.abs(x - 172) < 8 || Math.abs(x - 148) < 8) && y >= 130 && y < 215;
}
const scene = (clothes: Colour, wall: Colour): Picture => picture((x, y) => (isBody(x, y) ? clothes : wall));

it('tells how bright a picture is, and the performer in it', () => {
  const shown = scene([40, 40, 40], [200, 200, 200]);
  expect(brightness(shown)).toBeGreaterThan(160);
  expect(bodyLight(shown, body)?.light).toBeLessThan(45);
  expect(bodyLight(shown, body)?.burnt).toBe(0);
  expect(bodyLight(scene([255, 254, 255], [90, 90, 90]), body)?.burnt).toBeGreaterThan(0.9);
});

it('tells noise by its spread, and takes slopes and edges for none', () => {
  const slope = picture((x, y) => [x / 2 + y / 4, x / 2 + y / 4, x / 2 + y / 4]);
  expect(noiseLevel(slope)).toBeLessThan(0.7);
  expect(noiseLevel(scene([30, 30, 30], [200, 200, 200]))).toBeLessThan(0.1);
  for (const spread of [4, 12]) {
    const next = numbers(spread);
    // Even noise of ±a has a standard deviation of a / √3.
    const noisy = picture(() => {
      const value = 120 + spread * Math.sqrt(3) * next();
      return [value, value, value];
    });
    expect(noiseLevel(noisy) / spread).toBeGreaterThan(0.75);
    expect(noiseLevel(noisy) / spread).toBeLessThan(1.15);
  }
});

it('tells clothes that stand out from those that do not', () => {
  expect(limbContrast(scene([170, 60, 50], [200, 195, 185]), body)).toBeGreaterThan(40);
  expect(limbContrast(scene([196, 192, 182], [200, 195, 185]), body)).toBeLessThan(4);
});

it('tells how soft edges are, whatever their contrast', () => {
  const soft = (radius: number, dark: number): Picture =>
    picture((x, y) => {
      let covered = 0;
      for (let k = -radius; k <= radius; k++) covered += isBody(x + k, y) ? 1 : 0;
      const value = 200 - ((200 - dark) * covered) / (2 * radius + 1);
      return [value, value, value];
    });
  const [sharp, blurred] = [edgeWidth(soft(0, 40), body), edgeWidth(soft(4, 40), body)];
  expect(sharp).toBeLessThan(0.006);
  expect(blurred).toBeGreaterThan(0.03);
  expect(edgeWidth(soft(4, 120), body)).toBeCloseTo(blurred as number, 2);
  expect(edgeWidth(scene([200, 200, 200], [200, 200, 200]), body)).toBeNull();
});

describe('the small pictures of all frames', () => {
  /** @param shown what each frame shows, by a number. */
  function film(shown: readonly number[]): Uint8Array {
    const bytes = new Uint8Array(shown.length * COLUMNS * ROWS * 2);
    const view = new DataView(bytes.buffer);
    shown.forEach((scenery, frame) => {
      const next = numbers(Math.floor(scenery) * 77 + 5);
      for (let i = 0; i < COLUMNS * ROWS; i++) {
        // Something bright wanders through a scenery that stays.
        const passing = Math.hypot((i % COLUMNS) - ((scenery % 1) * 30 + 1), Math.floor(i / COLUMNS) - 9) < 3 ? 90 : 0;
        view.setUint16((frame * COLUMNS * ROWS + i) * 2, Math.round((110 + 60 * next() + passing) * 257 * 0.75), true);
      }
    });
    return bytes;
  }
  const moving = (scenery: number, from: number, count: number): number[] =>
    Array.from({ length: count }, (_, i) => scenery + (from + i) / 40);

  it('tell where another shot begins', () => {
    expect(frameChanges(film([...moving(1, 0, 20), ...moving(2, 0, 20)]), 30)).toEqual({ cuts: [20], doubled: 0 });
  });

  it('tell which part of them is doubled', () => {
    const each = moving(3, 0, 20).flatMap((shown) => [shown, shown]);
    const { cuts, doubled } = frameChanges(film(each), 30);
    expect(cuts).toEqual([]);
    expect(doubled).toBeGreaterThan(0.4);
    expect(frameChanges(new Uint8Array(0), 30)).toEqual({ cuts: [], doubled: 0 });
  });
});

describe('the camera', () => {
  /** A wall with a pattern of soft spots, wider than the picture. */
  const wide = WIDTH + 40;
  const wall = new Uint8Array(wide * HEIGHT);
  const next = numbers(9);
  for (let spot = 0; spot < 90; spot++) {
    const [cx, cy, light] = [(next() + 1) * (wide / 2), (next() + 1) * (HEIGHT / 2), 60 + 60 * (next() + 1)];
    for (let y = Math.max(0, Math.floor(cy) - 16); y < Math.min(HEIGHT, cy + 16); y++)
      for (let x = Math.max(0, Math.floor(cx) - 16); x < Math.min(wide, cx + 16); x++)
        wall[y * wide + x] += Math.max(0, (1 - Math.hypot(x - cx, y - cy) / 16) * light * 0.5);
  }
  const filmed = (shift: number): Picture => {
    const data = new Uint8Array(WIDTH * HEIGHT * 3);
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++)
        data.fill(40 + wall[y * wide + x + shift] / 2, (y * WIDTH + x) * 3, (y * WIDTH + x) * 3 + 3);
    return { width: WIDTH, height: HEIGHT, data };
  };

  it('stands still, or moves as fast as it does', () => {
    const [still, moved] = [new CameraSpeed(WIDTH, HEIGHT), new CameraSpeed(WIDTH, HEIGHT)];
    for (let i = 0; i < 16; i++) {
      still.next(filmed(0), []);
      moved.next(filmed(2 * i), []);
    }
    expect(still.speed(1 / 15)).toBe(0);
    // Two pixels of 320, fifteen times a second; the first steps pass before a movement is proven.
    expect(moved.speed(1 / 15)).toBeGreaterThan(0.065);
    expect(moved.speed(1 / 15)).toBeLessThan(0.11);
  });

  it('is not told before an empty wall', () => {
    const camera = new CameraSpeed(WIDTH, HEIGHT);
    for (let i = 0; i < 16; i++)
      camera.next(
        picture(() => [150, 150, 150]),
        [],
      );
    expect(camera.speed(1 / 15)).toBeNull();
  });
});
