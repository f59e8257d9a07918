import type { Picture } from '../picture/picture';
import type { FaceTracker, TrackedFace } from './face-tracker';

/** Frames after which a face is looked for again: where nobody is seen, and where a body is told that shows no face. */
const EVERY = { withoutBody: 5, besideBody: 30 };
/** Frames in a row in which a face fills the picture, from which on a body that has none there is taken for a mistake. */
const BELIEVED = 5;

/** Follows a face that fills the picture, as a camera on the head shows it: there is no body then, though one may be told. */
export class FillingFace {
  private frames = 0;

  constructor(private readonly face: FaceTracker) {}

  /** The face stands beside its body again, or another picture begins. */
  leave(): void {
    this.face.reset();
    this.frames = 0;
  }

  /** The face in a picture in which nobody is seen. */
  withoutBody(picture: Picture): Promise<TrackedFace | null> {
    return this.next(picture, EVERY.withoutBody);
  }

  /** The face in a picture in which a body is told that has no face where it should be; null until it speaks against that body. */
  async besideBody(picture: Picture): Promise<TrackedFace | null> {
    const face = await this.next(picture, EVERY.besideBody);
    return this.frames >= BELIEVED ? face : null;
  }

  private async next(picture: Picture, every: number): Promise<TrackedFace | null> {
    const face = await this.face.alone(picture, every);
    this.frames = face ? this.frames + 1 : 0;
    return face;
  }
}
