import type { Script } from '../choreography/script';

/** What lamps and the camera's own regulation do to a frame: brightness of red, green and blue, and noise. */
export class FilmLook {
  readonly gain: [number, number, number] = [1, 1, 1];
  /** Noise, grey levels to either side. */
  readonly grain: number;

  constructor(private readonly script: Pick<Script, 'film' | 'rate'>) {
    this.grain = script.film.grain;
  }

  begin(frame: number): void {
    const { film, rate } = this.script;
    const seconds = frame / rate;
    const lamp = 1 + film.flicker * Math.sin(2 * Math.PI * film.flickerHertz * seconds + 0.4);
    const exposure = 1 + film.adapt * Math.sin(seconds * 1.1);
    const warmth = film.adapt * 0.4 * Math.sin(seconds * 0.7 + 1);
    this.gain[0] = lamp * exposure * (1 + warmth);
    this.gain[1] = lamp * exposure;
    this.gain[2] = lamp * exposure * (1 - warmth);
  }

  /** What the lens makes of a picture that is not in focus: the mean over a square, twice, which is nearly round. */
  smear(pixels: Uint8Array, width: number, height: number): Uint8Array {
    const radius = this.script.film.blur / 2;
    if (radius === 0) return pixels;
    let from: Float32Array = new Float32Array(pixels);
    for (let round = 0; round < 2; round++)
      for (const [count, step, lines, next] of [
        [width, 3, height, width * 3],
        [height, width * 3, width, 3],
      ])
        from = boxed(from, count, step, lines, next, radius);
    for (let i = 0; i < pixels.length; i++) pixels[i] = from[i] + 0.5;
    return pixels;
  }
}

/** The mean over 2 · radius + 1 places along each line, the outermost of them in part. */
function boxed(
  values: Float32Array,
  count: number,
  step: number,
  lines: number,
  next: number,
  radius: number,
): Float32Array {
  const out = new Float32Array(values.length);
  const whole = Math.floor(radius);
  const part = radius - whole;
  const ends = whole + 1;
  const row = new Float32Array(count + 2 * ends);
  const share = 1 / (2 * radius + 1);
  for (let line = 0; line < lines; line++)
    for (let c = 0; c < 3; c++) {
      const base = line * next + c;
      for (let i = 0; i < count; i++) row[i + ends] = values[base + i * step];
      row.fill(row[ends], 0, ends);
      row.fill(row[count + ends - 1], count + ends);
      let sum = 0;
      for (let k = 1; k < 2 * whole + 1; k++) sum += row[k];
      for (let i = 0; i < count; i++) {
        sum += row[i + 2 * whole + 1];
        out[base + i * step] = share * (sum + part * (row[i] + row[i + 2 * ends]));
        sum -= row[i + 1];
      }
    }
  return out;
}
