import { execFileSync } from 'node:child_process';
import { correlation } from '@merry-shadow/core/measure/correlation';
import { jawFromSound } from '@merry-shadow/core/sound/mouth-from-sound';
import { tableLine } from '../table';

/** Sounds, as the synthesiser names them, and how far the jaw is open in them: by the height of the vowel in the International Phonetic Alphabet, closed for m. */
const SOUNDS: readonly (readonly [phoneme: string, open: number])[] = [
  ['a:', 1],
  ['i:', 0.2],
  ['E', 0.7],
  ['m', 0],
  ['u:', 0.2],
  ['O:', 0.7],
  ['e:', 0.45],
  ['o:', 0.45],
];
const VOICES = ['en-us', 'en-us+f3', 'en-us+m7', 'en-us+f5'];
/** Seconds of silence between sounds, and frames a second of the take. */
const GAP = 0.25;
const RATE = 30;
/** Words a minute: slowly, so that each sound lasts. */
const SPEED = 130;

/** One sound of a synthetic voice: 16 bits, one channel. @throws Error with a sentence when Debian's espeak-ng is missing. */
function spoken(voice: string, phoneme: string): { rate: number; samples: Float32Array } {
  let wave: Buffer;
  try {
    wave = execFileSync('espeak-ng', ['-v', voice, '-s', String(SPEED), '--stdout', `[[${phoneme}${phoneme}]]`], {
      maxBuffer: 1e8,
      stdio: ['ignore', 'pipe', 'ignore'],
    });
  } catch {
    throw new Error("This needs Debian's speech synthesiser: apt-get install espeak-ng");
  }
  const rate = wave.readUInt32LE(24);
  const body = wave.subarray(44);
  const samples = new Float32Array(Math.floor(body.length / 2));
  for (let i = 0; i < samples.length; i++) samples[i] = body.readInt16LE(i * 2) / 32768;
  return { rate, samples };
}

/** How well the mouth is told from a synthetic voice: sounds one after the other, of several voices, against how far the jaw is open in each. */
export async function measureMouth(): Promise<void> {
  process.stdout.write(tableLine(['voice', 'frames', 'goes with the truth', 'in sounds alone', 'silent frames, mean']));
  for (const voice of VOICES) {
    const parts: { samples: Float32Array; open: number }[] = [];
    let rate = 22050;
    for (let round = 0; round < 3; round++)
      for (const [phoneme, open] of SOUNDS) {
        const sound = spoken(voice, phoneme);
        rate = sound.rate;
        parts.push({ samples: new Float32Array(Math.round(GAP * rate)), open: 0 }, { samples: sound.samples, open });
      }
    const length = parts.reduce((sum, { samples }) => sum + samples.length, 0);
    const all = new Float32Array(length);
    const wanted = new Float32Array(length);
    const heard = new Uint8Array(length);
    let at = 0;
    for (const { samples, open } of parts) {
      all.set(samples, at);
      const loudest = samples.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
      // A sound is where its voice is: the first and last tenth of its strength.
      const loud = (i: number): boolean => loudest > 0 && Math.abs(samples[i]) > 0.1 * loudest;
      let [first, last] = [0, samples.length - 1];
      while (first < last && !loud(first)) first++;
      while (last > first && !loud(last)) last--;
      for (let i = first; loudest > 0 && i <= last; i++) {
        wanted[at + i] = open;
        heard[at + i] = 1;
      }
      at += samples.length;
    }
    const frames = Math.floor((length / rate) * RATE);
    const told = jawFromSound(all, rate, frames, RATE);
    const middle = (frame: number): number => Math.min(length - 1, Math.round(((frame + 0.5) / RATE) * rate));
    const truth = Array.from({ length: frames }, (_, frame) => wanted[middle(frame)]);
    const inside = truth.flatMap((_, frame) => (heard[middle(frame)] ? [frame] : []));
    const outside = truth.flatMap((_, frame) => (heard[middle(frame)] ? [] : [told[frame]]));
    process.stdout.write(
      tableLine([
        voice,
        String(frames),
        correlation(told, truth).toFixed(2),
        correlation(
          inside.map((frame) => told[frame]),
          inside.map((frame) => truth[frame]),
        ).toFixed(2),
        (outside.reduce((sum, value) => sum + value, 0) / outside.length).toFixed(3),
      ]),
    );
  }
}
