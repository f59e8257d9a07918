import type { Picture } from '../picture/picture';
import type { FaceTracker, TrackedFace } from './face-tracker';

/** Frames after which a face is looked for again: where it may well be, and beside a body that shows no face, mostly since it is turned away. */
const EVERY = { likely: 3, seldom: 30 };
/** Frames in a row in which a face fills the picture, from which on a body that has none there is taken for a mistake. */
const BELIEVED = 5;
/** Frames in which the face stands beside its body, after which such mistakes are no longer expected. */
const FORGOTTEN = 60;

/** Follows a face that fills the picture, as a camera on the head shows it: there is no body then, though one may be told. */
export class FillingFace {
  private frames = 0;
  /** In how many such frames a body without a face is still taken for a mistake at once. */
  private doubted = 0;

  constructor(private readonly face: FaceTracker) {}

  /** Another picture begins. */
  reset(): void {
    this.leave();
    this.doubted = 0;
  }

  /** In this frame the face stands where a body has its own. */
  standsBeside(): void {
    this.leave();
    if (this.doubted > 0) this.doubted--;
  }

  /** The face in a picture in which nobody is seen. */
  withoutBody(picture: Picture): Promise<TrackedFace | null> {
    return this.next(picture, EVERY.likely);
  }

  /** The face in a picture in which a body is told that has no face where it should be; null until it speaks against that body. */
  async besideBody(picture: Picture): Promise<TrackedFace | null> {
    const face = await this.next(picture, this.doubted > 0 ? EVERY.likely : EVERY.seldom);
    if (this.holds()) this.doubted = FORGOTTEN;
    return this.doubted > 0 ? face : null;
  }

  /** The face that has filled the picture for some frames, if it still does: a body told now is rather a mistake, with whatever is taken for its face. */
  async goesOn(picture: Picture): Promise<TrackedFace | null> {
    return this.holds() ? this.besideBody(picture) : null;
  }

  private holds(): boolean {
    return this.frames >= BELIEVED;
  }

  private leave(): void {
    this.face.reset();
    this.frames = 0;
  }

  private async next(picture: Picture, every: number): Promise<TrackedFace | null> {
    const face = await this.face.alone(picture, every);
    this.frames = face ? this.frames + 1 : 0;
    return face;
  }
}
