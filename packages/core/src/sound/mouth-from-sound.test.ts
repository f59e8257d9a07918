import { correlation } from '../measure/correlation';
import { jawFromSound } from './mouth-from-sound';

/** A made-up voice: pulses of a throat through two resonances, of which the first goes up as the mouth opens (D. Klatt, 1980). */
const SOUND = 8000;
const RATE = 30;
const SECONDS = 8;
const FRAMES = RATE * SECONDS;

const jawAt = (t: number): number => Math.max(0, Math.sin(t * 7) * 0.5 + 0.4 + 0.2 * Math.sin(t * 17));
const speaks = (t: number): boolean => t % 2.6 < 1.9;

function voice(pitch: number, noise: number): Float32Array {
  const samples = new Float32Array(SOUND * SECONDS);
  const state = [0, 0, 0, 0];
  let phase = 0;
  let chance = 7;
  for (let i = 0; i < samples.length; i++) {
    const t = i / SOUND;
    phase += (pitch * (1 + 0.05 * Math.sin(t * 3))) / SOUND;
    const pulse = phase >= 1 && speaks(t) ? 1 : 0;
    if (phase >= 1) phase -= 1;
    const resonances: [number, number][] = [
      [280 + 520 * jawAt(t), 80],
      [1400, 120],
    ];
    let value = pulse;
    resonances.forEach(([frequency, width], k) => {
      const r = Math.exp((-Math.PI * width) / SOUND);
      const out = value + 2 * r * Math.cos((2 * Math.PI * frequency) / SOUND) * state[k * 2] - r * r * state[k * 2 + 1];
      state[k * 2 + 1] = state[k * 2];
      state[k * 2] = out;
      value = out * (1 - r);
    });
    chance = (chance * 16807) % 2147483647;
    samples[i] = value + noise * (chance / 1073741823.5 - 1);
  }
  return samples;
}

const truth = Array.from({ length: FRAMES }, (_, frame) => {
  const t = (frame + 0.5) / RATE;
  return speaks(t) ? Math.min(1, jawAt(t)) : 0;
});

it.each([
  ['a low voice', 110, 0.0005, 0.75],
  ['a high voice', 210, 0.0005, 0.75],
  ['a voice over the wind', 140, 0.004, 0.7],
])('a mouth opens as %s tells', (_, pitch, noise, least) => {
  const told = jawFromSound(voice(pitch, noise), SOUND, FRAMES, RATE);
  expect(correlation(told, truth)).toBeGreaterThan(least);
  expect(Math.min(...told)).toBeGreaterThanOrEqual(0);
  expect(Math.max(...told)).toBeLessThanOrEqual(1);
});

it('stays closed where nobody speaks', () => {
  const silence = jawFromSound(new Float32Array(SOUND * 2), SOUND, 60, RATE);
  expect(Math.max(...silence)).toBeLessThan(0.05);
  const told = jawFromSound(voice(120, 0.0005), SOUND, FRAMES, RATE);
  const quiet = [...told].filter((_, frame) => (frame / RATE) % 2.6 > 2.1 && (frame / RATE) % 2.6 < 2.5);
  expect(Math.max(...quiet)).toBeLessThan(0.15);
});
