import type { FaceGeometry } from '@merry-shadow/core/face/head-turn';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import { BodyTracker, type BodyTrackerOptions, type TrackedBody } from '../body/body-tracker';
import { FaceTracker, type TrackedFace } from '../face/face-tracker';
import { FillingFace } from '../face/filling-face';
import { HandTracker, type TrackedHand } from '../hands/hand-tracker';
import type { Picture } from '../picture/picture';
import { faceNets, handNets, type Nets } from '../runtime/net';

/** One performer in one frame: without a body where a face alone fills the picture. */
export interface PerformerFrame {
  body: TrackedBody | null;
  leftHand: TrackedHand | null;
  rightHand: TrackedHand | null;
  face: TrackedFace | null;
}

export interface PerformerOptions extends BodyTrackerOptions, CapturedParts {
  /** Needed for the face. */
  geometry?: FaceGeometry;
}

/** Follows one performer: the body first, then face and hands beside it. */
export class PerformerTracker {
  private readonly body: BodyTracker;
  private readonly left: HandTracker | null;
  private readonly right: HandTracker | null;
  private readonly face: FaceTracker | null;
  /** A face that fills the picture, as a camera on the head shows it. None where somebody was chosen: it may be another's then. */
  private readonly filling: FillingFace | null;

  /** @throws Error when a part is wanted whose networks were not opened. */
  constructor(nets: Nets, options: PerformerOptions) {
    this.body = new BodyTracker(nets, options);
    this.left = options.hands ? new HandTracker(handNets(nets), 'left', options) : null;
    this.right = options.hands ? new HandTracker(handNets(nets), 'right', options) : null;
    if (options.face && !options.geometry) throw new Error('The face geometry is needed to track a face.');
    const { face, geometry, plain, guide } = options;
    const tracker = (): FaceTracker | null =>
      face && geometry ? new FaceTracker(faceNets(nets), geometry, plain) : null;
    this.face = tracker();
    const filling = guide ? null : tracker();
    this.filling = filling && new FillingFace(filling);
  }

  reset(): void {
    this.body.reset();
    this.resetHands();
    this.face?.reset();
    this.filling?.reset();
  }

  private resetHands(): void {
    this.left?.reset();
    this.right?.reset();
  }

  /** @param seconds since the frame before. @returns null when the performer isn't seen. */
  async next(picture: Picture, seconds: number): Promise<PerformerFrame | null> {
    const body = await this.body.next(picture, seconds);
    if (!body) return this.faceAlone((await this.filling?.withoutBody(picture)) ?? null);
    // One after the other: segments already keep all cores busy.
    const goesOn = await this.filling?.goesOn(picture);
    if (goesOn) return this.faceAlone(goesOn);
    const face = (await this.face?.next(picture, body.marks)) ?? null;
    if (face) this.filling?.standsBeside();
    else {
      const filling = await this.filling?.besideBody(picture);
      if (filling) return this.faceAlone(filling);
    }
    const leftHand = (await this.left?.next(picture, body.marks)) ?? null;
    const rightHand = (await this.right?.next(picture, body.marks)) ?? null;
    return { body, leftHand, rightHand, face };
  }

  private faceAlone(face: TrackedFace | null): PerformerFrame | null {
    this.resetHands();
    this.face?.reset();
    return face && { body: null, leftHand: null, rightHand: null, face };
  }
}
