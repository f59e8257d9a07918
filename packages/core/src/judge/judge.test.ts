import { emptyLooks, type Looks } from './looks';
import { goodParts } from './good-parts';
import { badStretches, whenWords } from './judge';
import { judgeFootage, JUDGES } from './registry';
import { faceHeight, outsideOf } from './body-look';
import { MARK, MARK_COUNT } from '../observe/body';

const LOOKS = 20;
/** Ten seconds of somebody who is well seen, two looks a second. */
function fine(change: Partial<Looks> = {}): Looks {
  const all = (value: number): number[] => Array<number>(LOOKS).fill(value);
  return {
    ...emptyLooks({ width: 1280, height: 720, rate: 30, frames: 300 }),
    at: Array.from({ length: LOOKS }, (_, i) => i * 15),
    light: all(120),
    bodyLight: all(110),
    burnt: all(0),
    noise: all(1),
    people: all(1),
    tall: all(600),
    outside: { head: all(0), hands: all(0), legs: all(0), feet: all(0) },
    moves: all(0.3),
    blur: all(0.003),
    contrast: all(40),
    face: all(120),
    pose: [...all(0).slice(1), 1],
    camera: all(0),
    doubled: 0,
    bitsPerPixel: 0.08,
    ...change,
  };
}
const over = (from: number, until: number, value: number, usual: number): number[] =>
  Array.from({ length: LOOKS }, (_, i) => (i >= from && i < until ? value : usual));
const kinds = (looks: Looks): string[] => judgeFootage(looks).map(({ kind }) => kind);

it('has nothing to say of footage without faults', () => {
  expect(judgeFootage(fine())).toEqual([]);
});

it.each<[string, Partial<Looks>]>([
  ['nobody', { people: over(0, 20, 0, 0), tall: Array<null>(LOOKS).fill(null), pose: Array<null>(LOOKS).fill(null) }],
  ['size', { tall: over(0, 20, 240, 0) }],
  ['light', { bodyLight: over(4, 14, 20, 110) }],
  ['burnt', { burnt: over(0, 20, 0.5, 0) }],
  ['blur', { blur: over(0, 20, 0.03, 0) }],
  ['contrast', { contrast: over(0, 20, 7, 40) }],
  ['noise', { noise: over(0, 20, 13, 1) }],
  ['compression', { bitsPerPixel: 0.004 }],
  ['camera', { camera: over(0, 20, 0.05, 0) }],
  ['cuts', { cuts: [120] }],
  ['people', { people: over(0, 20, 2, 1) }],
  ['rate', { rate: 12 }],
  ['pose', { pose: over(0, 20, 0, 0) }],
  ['face', { face: over(0, 20, 30, 120) }],
])('tells of %s, and of nothing else', (kind, change) => {
  expect(kinds(fine(change))).toEqual([kind]);
});

it('says when, and what to do, of feet that leave the picture', () => {
  const outside = { ...fine().outside, feet: over(7, 20, 1, 0) };
  const [found] = judgeFootage(fine({ outside }));
  expect(found).toMatchObject({
    kind: 'framing',
    from: 105,
    until: 300,
    says: 'Feet leave the picture from 3.5 s on.',
  });
  expect(found.advice).toMatch(/back/);
});

it('says of missing legs nothing more about their feet', () => {
  const outside = { ...fine().outside, feet: over(0, 20, 1, 0), legs: over(0, 20, 1, 0) };
  expect(judgeFootage(fine({ outside })).map(({ says }) => says)).toEqual(['Legs are out of the picture all through.']);
});

it('puts the worst first', () => {
  const looks = fine({ bodyLight: over(0, 20, 22, 0), noise: over(0, 3, 9, 1) });
  expect(kinds(looks)).toEqual(['light', 'noise']);
});

it('tells doubled frames from a low rate', () => {
  expect(judgeFootage(fine({ doubled: 0.5 }))[0].says).toContain('only 15 show a moment of their own');
});

it('brings bad looks together over short pauses, and leaves single ones out', () => {
  const bad = over(2, 6, 1, 0);
  bad[7] = 1;
  bad[15] = 1;
  bad[18] = bad[19] = 1;
  expect(badStretches(fine(), bad).map(({ from, until }) => [from, until])).toEqual([
    [30, 120],
    [270, 300],
  ]);
  expect(badStretches(fine(), bad, 1.5).map(({ from, until }) => [from, until])).toEqual([[30, 120]]);
  expect(whenWords({ from: 30, until: 120 }, fine())).toBe('from 1.0 s to 4.0 s');
});

it('gives each kind once, with a badness for every look', () => {
  expect(new Set(JUDGES.map(({ kind }) => kind)).size).toBe(JUDGES.length);
  for (const judge of JUDGES)
    for (const value of judge.badness(fine())) expect(value === null || (value >= 0 && value <= 1)).toBe(true);
});

describe('good parts', () => {
  it('are those in which somebody is wholly seen and moves', () => {
    const moves = over(0, 20, 0, 0).map((_, i) => (i >= 3 && i < 8 ? 0.4 : i >= 15 ? 0.3 : 0.01));
    expect(goodParts(fine({ moves }))).toEqual([
      { from: 18, until: 117 },
      { from: 198, until: 297 },
    ]);
  });

  it('leave out where the body is cut off, and end with the shot', () => {
    const outside = { ...fine().outside, head: over(0, 6, 1, 0) };
    expect(goodParts(fine({ outside, cuts: [200] }))).toEqual([
      { from: 63, until: 200 },
      { from: 200, until: 297 },
    ]);
  });
});

describe('a body in the picture', () => {
  const marks = (): Float32Array => new Float32Array(MARK_COUNT * 3).fill(100);
  it('misses the part of a part that lies outside', () => {
    const list = marks();
    list[MARK.leftWrist * 3] = -3;
    list[MARK.leftIndex * 3 + 1] = 800;
    expect(outsideOf(list, 'hands', { width: 640, height: 720 })).toBe(0.5);
    expect(outsideOf(list, 'feet', { width: 640, height: 720 })).toBe(0);
  });

  it('has a face as high as it is, and none from behind', () => {
    const [list, world] = [marks(), new Float32Array(MARK_COUNT * 3)];
    for (const name of ['mouthLeft', 'mouthRight'] as const) list[MARK[name] * 3 + 1] = 140;
    world[MARK.nose * 3 + 2] = 0.1;
    expect(faceHeight(list, world)).toBeCloseTo(76, 5);
    world[MARK.nose * 3 + 2] = -0.1;
    expect(faceHeight(list, world)).toBe(0);
  });
});
