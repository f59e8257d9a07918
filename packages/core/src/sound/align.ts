import { crossCorrelation } from '../signal/fft';

/** Two sounds of one moment. */
export interface Alignment {
  /** When the second one begins, seconds of the first; below 0 before it. */
  offset: number;
  /** How much more rises of loudness coincide than chance brings together, in what chance strays by. */
  sure: number;
}

/** From here on two recordings are taken for the same moment. */
export const SURE = 8;
/** They must share so many seconds. */
const LEAST_SHARED = 1;
/** Loudness that is taken for silence, of 255. */
const SILENT = 2;
/** A recording's own noise: this part of its moments is not louder; and how far over it something must be to be heard. */
const NOISE_PART = 0.3;
const OVER_NOISE = 1.6;
/** Moments before it that a rise is told against, and the least one: a factor of 1.5. */
const BEFORE = 4;
const LEAST_RISE = Math.log(1.5);

/**
 * Lines up two recordings by their loudness: where it rises, both rise, whatever the microphones and their distance. Rises are correlated at every
 * shift (by the Fourier transform) and weighed against what chance brings together.
 * @param a, b the loudest sample of each moment, 0 … 255. @param rate moments in a second.
 * @returns null when they share too little.
 */
export function alignByLoudness(a: ArrayLike<number>, b: ArrayLike<number>, rate: number): Alignment | null {
  const least = LEAST_SHARED * rate;
  if (Math.min(a.length, b.length) < least) return null;
  const [first, second] = [rises(a), rises(b)];
  const [firstCount, secondCount] = [first, second].map(runningCount);
  const fits = crossCorrelation(widened(first), widened(second));
  let best: Alignment | null = null;
  fits.forEach((fit, i) => {
    const shift = i - (second.length - 1);
    const [from, until] = [Math.max(0, shift), Math.min(first.length, second.length + shift)];
    if (until - from < least) return;
    const inFirst = firstCount[until] - firstCount[from];
    const inSecond = secondCount[until - shift] - secondCount[from - shift];
    // What chance would bring together of as many rises in as long a time, and how far it strays (Poisson).
    const chance = (inFirst * inSecond * WIDE) / (until - from);
    const sure = (fit - chance) / Math.sqrt(chance + 1);
    if (!best || sure > best.sure) best = { offset: shift / rate, sure };
  });
  return best;
}

/** How many rises lie before each moment. */
function runningCount(rising: Float64Array): Float64Array {
  const out = new Float64Array(rising.length + 1);
  for (let i = 0; i < rising.length; i++) out[i + 1] = out[i] + rising[i];
  return out;
}

/** Each rise with a moment to either side, for two recordings' moments do not begin at the same time. */
const widened = (rising: Float64Array): Float64Array =>
  rising.map((value, i) => value + 0.5 * (rising[i - 1] ?? 0) + 0.5 * (rising[i + 1] ?? 0));
/** What two widened rises come to, summed over all shifts. */
const WIDE = 4;

/**
 * Where something begins to be heard: how much louder a moment is than the ones before it, on a scale of hearing, where that is most; 0 elsewhere. What lies
 * under the recording's own noise counts as silence.
 */
function rises(loudness: ArrayLike<number>): Float64Array {
  const sorted = Float64Array.from(loudness).sort();
  const floor = Math.max(SILENT, OVER_NOISE * (sorted[Math.floor(sorted.length * NOISE_PART)] ?? 0));
  const level = Float64Array.from(loudness, (value) => Math.log(Math.max(floor, value)));
  const raw = new Float64Array(loudness.length);
  for (let i = BEFORE; i < raw.length; i++) {
    let before = 0;
    for (let k = 1; k <= BEFORE; k++) before = Math.max(before, level[i - k]);
    raw[i] = level[i] - before;
  }
  const out = new Float64Array(loudness.length);
  for (let i = 1; i < raw.length - 1; i++)
    if (raw[i] >= LEAST_RISE && raw[i] >= raw[i - 1] && raw[i] >= raw[i + 1]) out[i] = 1;
  return out;
}

/**
 * Makes an offset exact to a fraction of a frame: the sounds' own waves are laid over each other about it.
 * @param a, b samples at the same rate, as much as both share. @param about the offset, seconds. @param within how far it may be off, seconds.
 */
export function refineOffset(
  a: ArrayLike<number>,
  b: ArrayLike<number>,
  rate: number,
  about: number,
  within: number,
): number {
  const reach = Math.ceil(within * rate);
  const start = Math.round(about * rate);
  let [best, at] = [-Infinity, start];
  for (let shift = start - reach; shift <= start + reach; shift++) {
    const [from, until] = [Math.max(0, shift), Math.min(a.length, b.length + shift)];
    let [product, square] = [0, 0];
    for (let i = from; i < until; i++) {
      product += a[i] * b[i - shift];
      square += b[i - shift] ** 2;
    }
    // Phases differ from microphone to microphone: what is heard upside down fits, too.
    const score = Math.abs(product) / Math.sqrt(square || 1);
    if (score > best) [best, at] = [score, shift];
  }
  return at / rate;
}
