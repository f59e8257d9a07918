import { Film, Lamp } from '../choreography/script';
import { FilmLook } from './film-look';
import { highlight, lightOf, lit, SOFT } from './light';
import { patternTone } from './pattern';

describe('light', () => {
  it('comes from where the lamp stands, stronger or softer as asked', () => {
    const light = lightOf(Lamp.parse({ aside: 90 - 5, above: 45, key: 1, fill: 0.2 }));
    expect(light.toward[0]).toBeGreaterThan(0.65);
    expect(Math.hypot(...light.toward)).toBeCloseTo(1, 9);
    const shine = (nx: number, ny: number, nz: number, lamp = 1): number => {
      const out = new Float64Array(3);
      lit(light, nx, ny, nz, lamp, 1, out);
      return out[1];
    };
    expect(shine(1, 0, 0)).toBeGreaterThan(2 * shine(-1, 0, 0));
    expect(shine(1, 0, 0, 0)).toBeLessThan(0.3 * shine(1, 0, 0));
  });

  it('is the harbour’s where no lamp is named, reddish or bluish where asked', () => {
    expect(lightOf(undefined).key[0]).toBe(1.35);
    const [warm, cold] = [1, -1].map((warmth) => lightOf(Lamp.parse({ warmth })).key);
    expect(warm[0] / warm[2]).toBeGreaterThan(cold[0] / cold[2]);
  });

  it('darkens hollows as much as the finish says, and shines where it is mirrored', () => {
    const light = lightOf(undefined);
    const [deep, flat] = [SOFT, { ...SOFT, hollows: 0 }].map((finish) => {
      const out = new Float64Array(3);
      lit(light, 0, 0, 1, 0, 0.3, out, finish);
      return out[0];
    });
    expect(deep).toBeCloseTo(0.3 * flat, 6);
    const [x, y, z] = light.toward;
    expect(highlight(light, x, y, z, x, y, z, 30)).toBeCloseTo(1, 6);
    expect(highlight(light, -x, -y, -z, x, y, z, 30)).toBe(0);
  });
});

describe('what a lens smears', () => {
  const look = (blur: number): FilmLook => new FilmLook({ film: Film.parse({ blur }), rate: 30 });
  const dot = (): Uint8Array => {
    const pixels = new Uint8Array(15 * 11 * 3);
    for (let c = 0; c < 3; c++) pixels[(5 * 15 + 7) * 3 + c] = 240;
    return pixels;
  };

  it('keeps its light, spreads it alike to all sides, and is nothing without blur', () => {
    expect(look(0).smear(dot(), 15, 11)).toEqual(dot());
    const out = look(2).smear(dot(), 15, 11);
    const at = (x: number, y: number): number => out[(y * 15 + x) * 3];
    expect(at(7, 5)).toBeLessThan(120);
    expect(at(6, 5)).toBe(at(8, 5));
    expect(at(7, 4)).toBe(at(7, 6));
    const sum = out.reduce((a, b) => a + b, 0);
    expect(Math.abs(sum / (3 * 240) - 1)).toBeLessThan(0.05);
    const even = new Uint8Array(15 * 11 * 3).fill(77);
    expect(look(3).smear(even.slice(), 15, 11)).toEqual(even);
  });
});

describe('patterns of shirts', () => {
  it('are light and dark where they should be', () => {
    expect(patternTone('plain', 0.3, 1.1)).toBe(1);
    const tones = (pattern: 'stripes' | 'checks' | 'print' | 'knit'): Set<number> =>
      new Set(Array.from({ length: 200 }, (_, i) => Math.round(patternTone(pattern, (i % 20) / 50, i / 200) * 100)));
    for (const pattern of ['stripes', 'checks', 'print', 'knit'] as const)
      expect(tones(pattern).size).toBeGreaterThan(1);
  });
});
