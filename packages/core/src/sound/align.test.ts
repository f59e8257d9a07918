import { crossCorrelation, transform } from '../signal/fft';
import { alignByLoudness, refineOffset, SURE } from './align';

/** Numbers without chance. */
function numbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

const RATE = 8000;
/** Somebody who talks and steps for some seconds: bursts of noise at uneven times. */
function performance(seconds: number, seed: number): Float32Array {
  const next = numbers(seed);
  const sound = new Float32Array(seconds * RATE);
  for (let at = 0.2; at < seconds; at += 0.12 + 0.7 * next()) {
    const [from, loud, decay] = [Math.floor(at * RATE), 0.15 + 0.8 * next(), 300 + 1500 * next()];
    for (let i = 0; i < 6 * decay && from + i < sound.length; i++)
      sound[from + i] += loud * Math.exp(-i / decay) * (next() - 0.5);
  }
  return sound;
}
/** What a microphone hears of it: a part, fainter, with an echo and noise of its own. */
function heard(
  sound: Float32Array,
  from: number,
  until: number,
  gain: number,
  noise: number,
  seed: number,
): Float32Array {
  const next = numbers(seed);
  return sound
    .slice(Math.round(from * RATE), Math.round(until * RATE))
    .map((value, i, all) => gain * (value + 0.35 * (all[i - 700] ?? 0)) + noise * (next() - 0.5));
}
const loudness = (sound: Float32Array): Uint8Array =>
  Uint8Array.from({ length: Math.floor(sound.length / 80) }, (_, i) => {
    let most = 0;
    for (let k = i * 80; k < i * 80 + 80; k++) most = Math.max(most, Math.abs(sound[k]));
    return Math.min(255, Math.round(255 * most));
  });

it('transforms there and back', () => {
  const next = numbers(1);
  const real = Float64Array.from({ length: 64 }, next);
  const [re, im] = [real.slice(), new Float64Array(64)];
  transform(re, im);
  expect(re[0]).toBeCloseTo(
    real.reduce((sum, value) => sum + value, 0),
    9,
  );
  transform(re, im, true);
  re.forEach((value, i) => expect(value / 64).toBeCloseTo(real[i], 12));
});

it('correlates as the sums say', () => {
  const [a, b] = [
    [1, 2, 3, 4],
    [0.5, -1],
  ];
  const found = crossCorrelation(a, b);
  [-1, 2 * -1 + 0.5, 3 * -1 + 2 * 0.5, 4 * -1 + 3 * 0.5, 4 * 0.5].forEach((value, i) =>
    expect(found[i]).toBeCloseTo(value, 12),
  );
});

it.each([
  [2.37, 14, 1, 0.01],
  [-3.112, 9, 0.2, 0.02],
  [7.9, 20, 0.5, 0.06],
])('finds an offset of %d s to a fraction of a frame', (offset, seconds, gain, noise) => {
  const sound = performance(40, 7);
  const first = heard(sound, 10, 25, 1, 0.005, 2);
  const second = heard(sound, 10 + offset, 10 + offset + seconds, gain, noise, 3);
  const found = alignByLoudness(loudness(first), loudness(second), 100);
  expect(found?.sure).toBeGreaterThan(SURE);
  const exact = refineOffset(first, second, RATE, found?.offset ?? 0, 0.03);
  // A quarter of a frame of a film of 60 a second.
  expect(Math.abs(exact - offset)).toBeLessThan(0.004);
});

it('takes no two performances for one', () => {
  for (let seed = 1; seed <= 3; seed++) {
    const [a, b] = [
      heard(performance(30, seed), 0, 30, 1, 0.01, seed),
      heard(performance(30, seed + 100), 0, 30, 1, 0.01, seed + 9),
    ];
    expect(alignByLoudness(loudness(a), loudness(b), 100)?.sure ?? 0).toBeLessThan(SURE);
  }
});

it('says nothing of sounds that are too short, or of silence', () => {
  expect(alignByLoudness(new Uint8Array(50), new Uint8Array(5000), 100)).toBeNull();
  expect(alignByLoudness(new Uint8Array(500), new Uint8Array(500), 100)?.sure ?? 0).toBeLessThan(SURE);
});
