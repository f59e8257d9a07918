import { CutWatch } from './cuts';
import { FadeWatch } from './fades';
import type { Picture } from './picture';
import { RepeatWatch } from './repeats';
import { smallPicture } from './small-picture';

/** A place with things in it, `shift` pixels to the right, under so much light. */
const place = (seed: number, shift = 0, light = 1): Picture => {
  const data = new Uint8Array(192 * 108 * 3);
  for (let y = 0; y < 108; y++)
    for (let x = 0; x < 192; x++) {
      const [u, v] = [(x - shift) / 9 + seed * 17, y / 7 + seed * 5];
      const shade = 110 + 45 * Math.sin(u + seed) * Math.cos(v * 0.8 + seed * u * 0.1) + 30 * Math.sin(v + u * 0.3);
      data.fill(Math.max(0, Math.min(255, shade * light)), (y * 192 + x) * 3, (y * 192 + x) * 3 + 3);
    }
  return { width: 192, height: 108, data };
};
/** So much of one picture and the rest of another, or of black. */
const mix = (a: Picture, share: number, b: Picture | null): Picture => ({
  ...a,
  data: a.data.map((value, i) => share * value + (b ? (1 - share) * b.data[i] : 0)),
});
/** Somebody walks through a place that stays: a dark square that goes on by so many pixels. */
const walk = (seed: number, places: readonly number[]): Picture[] => {
  const empty = place(seed);
  return places.map((x) => {
    const { data, ...size } = { ...empty, data: empty.data.slice() };
    for (let y = 30; y < 90; y++) data.fill(60, (y * 192 + x) * 3, (y * 192 + x + 14) * 3);
    return { ...size, data };
  });
};
const steps = (count: number, from = 10, by = 3): number[] => Array.from({ length: count }, (_, i) => from + i * by);

describe('cuts', () => {
  const told = (pictures: readonly Picture[]): number[] => {
    const watch = new CutWatch();
    return pictures.flatMap((picture, i) => (watch.next(smallPicture(picture)) ? [i] : []));
  };
  const pan = (seed: number, count: number, speed: number): Picture[] =>
    Array.from({ length: count }, (_, i) => place(seed, i * speed));

  it('are told from movement, however soon they follow each other', () => {
    expect(told([...pan(1, 8, 1), ...pan(2, 8, 2), ...pan(3, 8, 0)])).toEqual([8, 16]);
    expect(told([place(1), place(2), place(2)])).toEqual([1]);
  });

  it('are neither lamps that go on and off, nor a pan', () => {
    expect(told([...pan(1, 8, 0), place(1, 0, 1.6), place(1, 0, 0.5), ...pan(1, 4, 0)])).toEqual([]);
    expect(told(pan(2, 20, 2))).toEqual([]);
    const blank = { width: 192, height: 108, data: new Uint8Array(192 * 108 * 3).fill(90) };
    expect(told([blank, blank, blank])).toEqual([]);
  });
});

describe('fades', () => {
  const told = (pictures: readonly Picture[]): [begin: number, end: number][] => {
    const watch = new FadeWatch(30);
    return pictures.flatMap((picture, i): [number, number][] => {
      const long = watch.next(smallPicture(picture));
      return long > 0 ? [[i - long, i]] : [];
    });
  };
  const before = walk(1, steps(12, 10, 1));
  const after = walk(3, steps(14, 40, 1));
  const last = before[11];

  it('of one picture over another are told when they have ended, from where they began', () => {
    const amid = Array.from({ length: 15 }, (_, i) => mix(after[0], (i + 1) / 16, last));
    const [[begin, end], ...others] = told([...before, ...amid, ...after]);
    expect(others).toEqual([]);
    expect(Math.abs(begin - 12)).toBeLessThanOrEqual(1);
    expect(end).toBeGreaterThanOrEqual(27);
    expect(end).toBeLessThanOrEqual(34);
  });

  it('through black are one fade', () => {
    const shares = [0.8, 0.6, 0.4, 0.2, 0.05];
    const amid = [
      ...shares.map((share) => mix(last, share, null)),
      ...shares.toReversed().map((share) => mix(after[0], share, null)),
    ];
    const [[begin, end], ...others] = told([...before, ...amid, ...after]);
    expect(others).toEqual([]);
    expect(Math.abs(begin - 12)).toBeLessThanOrEqual(1);
    expect(end).toBeGreaterThanOrEqual(22);
  });

  it('are neither pans, nor cuts, nor lamps, nor who walks by', () => {
    expect(told(Array.from({ length: 60 }, (_, i) => place(1, i * 2)))).toEqual([]);
    expect(told(Array.from({ length: 60 }, (_, i) => place(1, 0, 1 - 0.8 * Math.sin((i / 60) * Math.PI))))).toEqual([]);
    expect(told(walk(1, steps(56)))).toEqual([]);
  });
});

describe('doubled pictures', () => {
  const told = (pictures: readonly Picture[]): number[] => {
    const watch = new RepeatWatch();
    return pictures.flatMap((picture, i) => {
      const many = watch.next(smallPicture(picture));
      return Array.from({ length: many }, (_, k) => i - many + k);
    });
  };

  it('are told once the movement goes on, single ones and stills', () => {
    const doubled = steps(20).flatMap((x, i) => (i % 5 === 4 ? [x, x] : [x]));
    expect(told(walk(1, doubled))).toEqual([5, 11, 17]);
    expect(told(walk(1, [...steps(10), ...Array<number>(8).fill(37), ...steps(5, 40)]))).toEqual(steps(8, 10, 1));
  });

  it('are not told of who comes to rest by and by, or stands at the beginning or the end', () => {
    const resting = [10, 13, 16, 18, 19, 19, 19, 19, 20, 22, 25];
    // The last steps before the rest move a pixel: a sixteenth of a square.
    const slow = walk(1, resting).map((picture, i) =>
      i > 3 && i < 9 ? mix(picture, 0.98, walk(1, [16])[0]) : picture,
    );
    expect(told(slow.slice(4, 8))).toEqual([]);
    expect(told(walk(1, [30, 30, 30, ...steps(6, 33), 48, 48, 48]))).toEqual([]);
  });
});
