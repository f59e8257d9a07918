import { mat3 } from 'gl-matrix';
import { describe, expect, it } from '@jest/globals';
import {
  rotation,
  cameraMotionFocal,
  cameraMotionMap,
  cameraMotionOf,
  type CameraMotion,
} from '@merry-shadow/core/camera/camera-motion';
import type { Picture } from '../picture/picture';
import { BackgroundWatch } from './background-watch';
import { boxRound, type Box } from './box';

const WIDTH = 480;
const HEIGHT = 270;
const FOCAL = cameraMotionFocal(WIDTH, HEIGHT);

// Looked up once: globals are slow within the test runner.
const { sin } = Math;

/** Brightness of a far wall in a direction: waves of several lengths, none of which repeats soon. */
const wall = (x: number, y: number): number =>
  128 +
  30 * sin(x * 23 + y * 9) +
  25 * sin(x * 11 - y * 31 + 1) +
  20 * sin(y * 67 + x * 5) * sin(x * 47 + 2) +
  15 * sin(x * 83 + y * 71);

/** The wall seen by a camera that is turned (in green, which is what is looked at): what lay in direction d is shown where `map` moves it. */
function picture(map: mat3, people: readonly (Box & { shade: number })[] = [], brighter = 0): Picture {
  const back = mat3.invert(mat3.create(), map) as mat3;
  const data = new Uint8ClampedArray(WIDTH * HEIGHT * 3);
  for (let y = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++) {
      const [u, v] = [(x + 0.5 - WIDTH / 2) / FOCAL, (y + 0.5 - HEIGHT / 2) / FOCAL];
      const w = back[2] * u + back[5] * v + back[8];
      const person = people.find(({ left, right, top, bottom }) => x >= left && x < right && y >= top && y < bottom);
      const shown = person
        ? person.shade + 60 * sin((x - person.left) / 7)
        : wall((back[0] * u + back[3] * v + back[6]) / w, (back[1] * u + back[4] * v + back[7]) / w);
      data[(y * WIDTH + x) * 3 + 1] = shown + brighter;
    }
  }
  return { width: WIDTH, height: HEIGHT, data: new Uint8Array(data.buffer) };
}

const STILL: CameraMotion = [0, 0, 0, 0];
const UNTOLD: CameraMotion = [NaN, NaN, NaN, NaN];

function follow(
  course: readonly mat3[],
  people: (frame: number) => (Box & { shade: number })[] = () => [],
): CameraMotion[] {
  const watch = new BackgroundWatch(WIDTH, HEIGHT);
  const cameraMotions: CameraMotion[] = [];
  course.forEach((map, frame) => {
    const told = watch.next(picture(map, people(frame), frame), people(frame));
    cameraMotions.splice(frame + 1 - told.length, told.length, ...told);
  });
  return cameraMotions;
}

const joined = (cameraMotions: readonly CameraMotion[]): mat3 =>
  cameraMotions.reduce(
    (map, cameraMotion) => mat3.multiply(mat3.create(), cameraMotionMap(cameraMotion, FOCAL), map),
    mat3.create(),
  );

describe('how the background moves', () => {
  it('is told by a map that can be read back', () => {
    const cameraMotion: CameraMotion = [12, -7, 0.03, 0.02];
    cameraMotionOf(cameraMotionMap(cameraMotion, FOCAL), FOCAL).forEach((value, k) =>
      expect(value).toBeCloseTo(cameraMotion[k], 9),
    );
    // To the right is to the right, clockwise is clockwise.
    const map = cameraMotionMap([10, 0, 0, 0], FOCAL);
    expect((map[6] / map[8]) * FOCAL).toBeCloseTo(10, 2);
    expect(rotation(0, 0, 0.1)[1]).toBeCloseTo(Math.sin(0.1), 9);
  });

  it('is followed to a fraction of a pixel while the exposure changes and somebody walks by', () => {
    const course = Array.from({ length: 8 }, (_, f) =>
      cameraMotionMap(
        [5 * Math.sin(f * 0.7), 3 * Math.sin(f * 0.5), 0.01 * Math.sin(f * 0.9), 0.01 * Math.sin(f * 0.3)],
        FOCAL,
      ),
    );
    const walker = (f: number): (Box & { shade: number })[] => [
      { left: 100 + f * 15, right: 210 + f * 15, top: 30, bottom: 260, shade: 90 },
    ];
    const cameraMotions = follow(course, walker);
    for (let f = 1; f < course.length; f++) {
      const back = mat3.invert(mat3.create(), course[f - 1]) as mat3;
      const real = cameraMotionOf(mat3.multiply(mat3.create(), course[f], back), FOCAL);
      expect(Math.abs(cameraMotions[f][0] - real[0])).toBeLessThan(0.3);
      expect(Math.abs(cameraMotions[f][1] - real[1])).toBeLessThan(0.3);
      expect(Math.abs(cameraMotions[f][2] - real[2])).toBeLessThan(0.001);
      expect(Math.abs(cameraMotions[f][3] - real[3])).toBeLessThan(0.001);
    }
  });

  it('adds up over a long pan', () => {
    const course = Array.from({ length: 14 }, (_, f) => rotation((f * 9) / FOCAL, 0, 0));
    const [right, down] = cameraMotionOf(joined(follow(course)), FOCAL);
    expect(Math.abs(right - 13 * 9)).toBeLessThan(2);
    expect(Math.abs(down)).toBeLessThan(1);
  });

  it('is nothing while the camera stands still, and where nothing can be told', () => {
    const still = Array.from({ length: 4 }, () => mat3.create());
    for (const cameraMotion of follow(still))
      cameraMotion.forEach((value) => expect(Math.abs(value)).toBeLessThan(0.05));
    const watch = new BackgroundWatch(WIDTH, HEIGHT);
    const blank = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT * 3).fill(120) };
    expect(watch.next(blank, [])).toEqual([STILL]);
    for (let f = 0; f < 3; f++) expect(watch.next(blank, [])).toEqual([UNTOLD]);
    // A hard cut to another place.
    watch.next(picture(mat3.create()), []);
    expect(watch.next(picture(cameraMotionMap([200, 125, 0.6, 0.4], FOCAL)), [])).toEqual([UNTOLD]);
  });

  describe('of a camera that stands still', () => {
    const still = (count: number): mat3[] => Array.from({ length: count }, () => mat3.create());
    /** A wall with a few things on it, in shades of grey; `over` draws what moves before it. */
    const draw = (over: (x: number, y: number) => number, things = true): Picture => {
      const data = new Uint8Array(WIDTH * HEIGHT * 3);
      for (let y = 0; y < HEIGHT; y++)
        for (let x = 0; x < WIDTH; x++) {
          const thing = things && ((x > 40 && x < 90 && y > 60 && y < 140) || (x > 400 && y > 90));
          data[(y * WIDTH + x) * 3 + 1] = (thing ? 90 : y > 215 && things ? 140 : 190) * over(x, y);
        }
      return { width: WIDTH, height: HEIGHT, data };
    };
    /** The edge of a soft shadow that swings about. */
    const shadow =
      (f: number) =>
      (x: number, y: number): number => {
        const [u, v] = [(x - 230 - 40 * sin(f / 3)) / 60, (y - 150 - 10 * sin(f / 2)) / 90];
        return 1 - 0.4 / (1 + Math.exp(8 * (Math.hypot(u, v) - 1)));
      };
    const people = [{ left: 200, right: 260, top: 60, bottom: 250 }];
    const told = (count: number, at: (frame: number) => Picture): CameraMotion[] => {
      const watch = new BackgroundWatch(WIDTH, HEIGHT);
      return Array.from({ length: count }, (_, f) => watch.next(at(f), people)).flat();
    };

    it('nothing is told by a shadow, a curtain, lamps that flicker or noise', () => {
      let seed = 1;
      const random = (): number => (seed = (seed * 16807) % 2147483647) / 2147483647;
      const moving: ((f: number) => (x: number, y: number) => number)[] = [
        shadow,
        (f) => (x) => (x > 300 && x < 380 ? 1 + 0.2 * sin(x / 5 + 2 * sin(f / 4)) : 1),
        (f) => () => 1 + 0.1 * sin(f * 2.3),
        () => () => 1 + 0.12 * (random() - 0.5),
      ];
      for (const over of moving)
        for (const cameraMotion of told(25, (f) => draw(over(f))))
          expect(cameraMotion.every((value) => value === 0)).toBe(true);
    });

    it('nothing is told before a bare wall, and it is said so', () => {
      const cameraMotions = told(20, (f) => draw(shadow(f), false));
      expect(cameraMotions.slice(1).every((cameraMotion) => cameraMotion.every(Number.isNaN))).toBe(true);
    });

    it('a push is told whole, though it is proven later, and then it stands again', () => {
      const after = cameraMotionMap([9, -5, 0.01, 0], FOCAL);
      const middle = cameraMotionMap([4.5, -2.5, 0.005, 0], FOCAL);
      const cameraMotions = follow([...still(6), middle, ...Array.from({ length: 8 }, () => after)]);
      expect(cameraMotions).toHaveLength(15);
      for (const cameraMotion of cameraMotions.slice(0, 6)) expect(cameraMotion).toEqual(STILL);
      expect(Math.abs(cameraMotions[6][0] - 4.5)).toBeLessThan(0.3);
      const [right, down, turn] = cameraMotionOf(joined(cameraMotions), FOCAL);
      expect(Math.abs(right - 9)).toBeLessThan(0.3);
      expect(Math.abs(down + 5)).toBeLessThan(0.3);
      expect(Math.abs(turn - 0.01)).toBeLessThan(0.001);
    });
  });

  it('leaves room round a performer', () => {
    const box = boxRound([100, 200, 1, 300, 600, 1]);
    expect(box).toEqual({ left: 52, top: 152, right: 348, bottom: 648 });
  });
});
