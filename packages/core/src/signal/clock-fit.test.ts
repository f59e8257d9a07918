import { fitClock } from './clock-fit';

/** Arrivals of frames of a clock that runs by `drift` faster, after delays between 4 and some 60 ms. */
function frames(seconds: number, drift: number, seed = 1): [own: number[], arrived: number[]] {
  let state = seed;
  const chance = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
  const ours = Array.from({ length: seconds * 30 }, (_, i) => i / 30);
  return [
    ours.map((time) => 812 + time * (1 + drift)),
    ours.map((time) => time + 0.004 - 0.012 * Math.log(1 - chance())),
  ];
}
/** The greatest difference to the true times but for the shortest delay, milliseconds. */
function worst(seconds: number, drift: number): number {
  const [own, arrived] = frames(seconds, drift);
  const { rate, offset } = fitClock(own, arrived);
  return Math.max(...own.map((time, i) => Math.abs(rate * time + offset - 0.004 - i / 30))) * 1000;
}

describe('a clock of a device', () => {
  it.each([4e-4, -1e-3, 0])('is told with its drift of %d', (drift) => {
    expect(worst(60, drift)).toBeLessThan(2);
    expect(worst(8, drift)).toBeLessThan(4);
  });

  it('is told from two frames and from one', () => {
    expect(fitClock([5], [7])).toEqual({ rate: 1, offset: 2 });
    const { rate, offset } = fitClock([5, 6], [7, 8.5]);
    expect(rate).toBeCloseTo(1.002, 9);
    expect(offset + rate * 5).toBeLessThanOrEqual(7);
  });
});
