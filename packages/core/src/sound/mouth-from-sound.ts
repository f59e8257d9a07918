import { transform } from '../signal/fft';
import { gaussianColumns } from '../signal/gaussian';

/** Samples that are looked at at once, seconds: some periods of a voice. */
const WINDOW = 0.04;
/** Energies that are compared, Hz: an open mouth raises the first resonance of the throat out of the lower band into the upper one (G. Fant, "Acoustic Theory of Speech Production", 1960). */
const LOWER = [80, 400] as const;
const UPPER = [400, 1000] as const;
/** A voice is this much louder than the quietest part of the take, decibels, and no further below its loudest. */
const ABOVE_NOISE = 12;
const BELOW_LOUDEST = 32;
/** The shares of voiced frames that stand for a mouth that is nearly closed and wide open. */
const RANGE = [0.1, 0.95] as const;
/** Seconds over which a mouth moves at least (standard deviation). */
const CALM = 0.035;

/**
 * How far a mouth is open, told from the voice: where one is heard, by how the energy from 400 to 1000 Hz stands to that from 80 to 400 Hz, brought to the range of the take.
 * @param samples one channel. @param soundRate samples a second.
 * @param frames, rate of the take, whose first frame begins with the first sample.
 * @returns 0 closed … 1 wide open for each frame.
 */
export function jawFromSound(samples: Float32Array, soundRate: number, frames: number, rate: number): Float32Array {
  let size = 1;
  while (size < WINDOW * soundRate) size <<= 1;
  const window = Float64Array.from({ length: size }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / size));
  const [real, imaginary] = [new Float64Array(size), new Float64Array(size)];
  const band = ([low, high]: readonly [number, number]): number => {
    let sum = 1e-12;
    for (let k = Math.ceil((low * size) / soundRate); k < (high * size) / soundRate; k++)
      sum += real[k] ** 2 + imaginary[k] ** 2;
    return sum;
  };
  const loud = new Float64Array(frames);
  const open = new Float64Array(frames);
  for (let frame = 0; frame < frames; frame++) {
    const middle = Math.round(((frame + 0.5) / rate) * soundRate);
    for (let i = 0; i < size; i++) real[i] = (samples[middle - size / 2 + i] ?? 0) * window[i];
    imaginary.fill(0);
    transform(real, imaginary);
    const [lower, upper] = [band(LOWER), band(UPPER)];
    loud[frame] = 10 * Math.log10(lower + upper);
    open[frame] = Math.log(upper / lower);
  }
  const sorted = loud.slice().sort();
  const least = Math.max(sorted[Math.floor(0.1 * frames)] + ABOVE_NOISE, sorted[frames - 1] - BELOW_LOUDEST);
  // Of a take that is all voice nothing is quiet.
  const voiced = loud.map((level) => (level > Math.min(least, sorted[frames - 1] - 6) ? 1 : 0));
  const heard = open.filter((_, frame) => voiced[frame] > 0).sort();
  const [closed, wide] = RANGE.map((share) => heard[Math.floor(share * (heard.length - 1))] ?? 0);
  const told = Float32Array.from(open, (value, frame) =>
    voiced[frame] && wide > closed ? Math.min(1, Math.max(0, (value - closed) / (wide - closed))) : 0,
  );
  return gaussianColumns(told, 1, CALM * rate).map((value) => Math.min(1, Math.max(0, value)));
}
