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
}
