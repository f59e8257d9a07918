import { CutWatch } from './cuts';
import { FadeWatch } from './fades';
import { RepeatWatch } from './repeats';

/** What a picture tells against those before it. */
export interface ShotNews {
  /** Another shot begins with it, by a hard cut or at the end of a fade. */
  begins: boolean;
  /** Pictures right before it that lie amid a fade, and that were doubled: they show no moment of their own. */
  faded: number;
  doubled: number;
}

/** Notices cuts, fades and doubled pictures, from small pictures one after the other (see `smallPicture`). */
export class ShotWatch {
  private readonly cuts = new CutWatch();
  private readonly fades: FadeWatch;
  private readonly repeats = new RepeatWatch();

  /** @param rate pictures a second. */
  constructor(rate: number) {
    this.fades = new FadeWatch(rate);
  }

  next(small: Float32Array): ShotNews {
    const cut = this.cuts.next(small);
    if (cut) this.fades.reset();
    const faded = this.fades.next(small);
    return { begins: cut || faded > 0, faded, doubled: this.repeats.next(small) };
  }
}
