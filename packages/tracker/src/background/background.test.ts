import { mat3 } from 'gl-matrix';
import { describe, expect, it } from '@jest/globals';
import { rotation, swayFocal, swayMap, swayOf, type Sway } from '@merry-shadow/core/camera/sway';
import type { Picture } from '../picture/picture';
import { BackgroundWatch, boxRound, type Box } from './background-watch';

const WIDTH = 480;
const HEIGHT = 270;
const FOCAL = swayFocal(WIDTH, HEIGHT);

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

const STILL: Sway = [0, 0, 0, 0];

function follow(course: readonly mat3[], people: (frame: number) => (Box & { shade: number })[] = () => []): Sway[] {
  const watch = new BackgroundWatch(WIDTH, HEIGHT);
  return course.map((map, frame) => watch.next(picture(map, people(frame), frame), people(frame)));
}

const joined = (sways: readonly Sway[]): mat3 =>
  sways.reduce((map, sway) => mat3.multiply(mat3.create(), swayMap(sway, FOCAL), map), mat3.create());

describe('how the background moves', () => {
  it('is told by a map that can be read back', () => {
    const sway: Sway = [12, -7, 0.03, 0.02];
    swayOf(swayMap(sway, FOCAL), FOCAL).forEach((value, k) => expect(value).toBeCloseTo(sway[k], 9));
    // To the right is to the right, clockwise is clockwise.
    const map = swayMap([10, 0, 0, 0], FOCAL);
    expect((map[6] / map[8]) * FOCAL).toBeCloseTo(10, 2);
    expect(rotation(0, 0, 0.1)[1]).toBeCloseTo(Math.sin(0.1), 9);
  });

  it('is followed to a fraction of a pixel while the exposure changes and somebody walks by', () => {
    const course = Array.from({ length: 8 }, (_, f) =>
      swayMap(
        [5 * Math.sin(f * 0.7), 3 * Math.sin(f * 0.5), 0.01 * Math.sin(f * 0.9), 0.01 * Math.sin(f * 0.3)],
        FOCAL,
      ),
    );
    const walker = (f: number): (Box & { shade: number })[] => [
      { left: 100 + f * 15, right: 210 + f * 15, top: 30, bottom: 260, shade: 90 },
    ];
    const sways = follow(course, walker);
    for (let f = 1; f < course.length; f++) {
      const back = mat3.invert(mat3.create(), course[f - 1]) as mat3;
      const real = swayOf(mat3.multiply(mat3.create(), course[f], back), FOCAL);
      expect(Math.abs(sways[f][0] - real[0])).toBeLessThan(0.3);
      expect(Math.abs(sways[f][1] - real[1])).toBeLessThan(0.3);
      expect(Math.abs(sways[f][2] - real[2])).toBeLessThan(0.001);
      expect(Math.abs(sways[f][3] - real[3])).toBeLessThan(0.001);
    }
  });

  it('adds up over a long pan', () => {
    const course = Array.from({ length: 14 }, (_, f) => rotation((f * 9) / FOCAL, 0, 0));
    const [right, down] = swayOf(joined(follow(course)), FOCAL);
    expect(Math.abs(right - 13 * 9)).toBeLessThan(2);
    expect(Math.abs(down)).toBeLessThan(1);
  });

  it('is nothing while the camera stands still, and where nothing can be told', () => {
    const still = Array.from({ length: 4 }, () => mat3.create());
    for (const sway of follow(still)) sway.forEach((value) => expect(Math.abs(value)).toBeLessThan(0.05));
    const watch = new BackgroundWatch(WIDTH, HEIGHT);
    const blank = { width: WIDTH, height: HEIGHT, data: new Uint8Array(WIDTH * HEIGHT * 3).fill(120) };
    for (let f = 0; f < 3; f++) expect(watch.next(blank, [])).toEqual(STILL);
    // A hard cut to another place.
    watch.next(picture(mat3.create()), []);
    expect(watch.next(picture(swayMap([200, 125, 0.6, 0.4], FOCAL)), [])).toEqual(STILL);
  });

  it('leaves room round a performer', () => {
    const box = boxRound([100, 200, 1, 300, 600, 1]);
    expect(box).toEqual({ left: 52, top: 152, right: 348, bottom: 648 });
  });
});
