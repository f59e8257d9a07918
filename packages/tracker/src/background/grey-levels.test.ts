import { describe, expect, it } from '@jest/globals';
import { emptyLevels, fillLevels } from './grey-levels';

/** A picture whose green is told by a function of the place. */
function picture(width: number, height: number, green: (x: number, y: number) => number) {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[(y * width + x) * 3 + 1] = green(x, y);
  return { width, height, data };
}

describe('grey levels', () => {
  it('are made for any picture, each half the one before, the finest no wider than 240', () => {
    for (const [width, height] of [
      [960, 540],
      [540, 960],
      [1920, 1080],
      [120, 90],
      [1, 1],
    ]) {
      const levels = emptyLevels(width, height);
      expect(levels).toHaveLength(3);
      expect(Math.max(levels[0].width, levels[0].height)).toBeLessThanOrEqual(240);
      levels.forEach((level, i) => {
        expect(level.step).toBe(levels[0].step * 2 ** i);
        expect(level.data).toHaveLength(level.width * level.height);
        expect(level.width).toBeGreaterThan(0);
      });
    }
  });

  it('keep an even brightness and a slope', () => {
    const even = emptyLevels(960, 540);
    fillLevels(
      picture(960, 540, () => 77),
      even,
    );
    for (const { data } of even) expect(data.every((value) => Math.abs(value - 77) < 1e-4)).toBe(true);
    const sloped = emptyLevels(480, 270);
    fillLevels(
      picture(480, 270, (x) => x / 2),
      sloped,
    );
    const [finest, middle] = sloped;
    expect(finest.data[101] - finest.data[100]).toBeCloseTo(finest.step / 2, 1);
    expect(middle.data[51] - middle.data[50]).toBeCloseTo(middle.step / 2, 1);
  });

  it('leave nothing of a picture that came before', () => {
    const levels = emptyLevels(320, 180);
    fillLevels(
      picture(320, 180, (x, y) => (x * y) % 251),
      levels,
    );
    fillLevels(
      picture(320, 180, () => 10),
      levels,
    );
    for (const { data } of levels) expect(Math.max(...data)).toBeCloseTo(10, 4);
  });
});
