import type { FaceGeometry } from '@merry-shadow/core/face/head-turn';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import { BodyTracker, type BodyTrackerOptions, type TrackedBody } from '../body/body-tracker';
import { FaceTracker, type TrackedFace } from '../face/face-tracker';
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

/** Follows one performer: the body first, then hands and face beside it. */
export class PerformerTracker {
  private readonly body: BodyTracker;
  private readonly left: HandTracker | null;
  private readonly right: HandTracker | null;
  private readonly face: FaceTracker | null;
  /** Whether somebody was chosen: a face without a body may be another's then. */
  private readonly chosen: boolean;

  /** @throws Error when a part is wanted whose networks were not opened. */
  constructor(nets: Nets, options: PerformerOptions) {
    this.body = new BodyTracker(nets, options);
    this.chosen = options.guide !== undefined;
    this.left = options.hands ? new HandTracker(handNets(nets), 'left', options.plain) : null;
    this.right = options.hands ? new HandTracker(handNets(nets), 'right', options.plain) : null;
    if (options.face && !options.geometry) throw new Error('The face geometry is needed to track a face.');
    this.face =
      options.face && options.geometry ? new FaceTracker(faceNets(nets), options.geometry, options.plain) : null;
  }

  reset(): void {
    this.body.reset();
    this.resetHands();
    this.face?.reset();
  }

  private resetHands(): void {
    this.left?.reset();
    this.right?.reset();
  }

  /** @param seconds since the frame before. @returns null when the performer isn't seen. */
  async next(picture: Picture, seconds: number): Promise<PerformerFrame | null> {
    const body = await this.body.next(picture, seconds);
    if (!body) {
      this.resetHands();
      if (this.chosen) this.face?.reset();
      const face = (this.chosen ? null : await this.face?.alone(picture)) ?? null;
      return face && { body: null, leftHand: null, rightHand: null, face };
    }
    // One after the other: segments already keep all cores busy.
    const leftHand = (await this.left?.next(picture, body.marks)) ?? null;
    const rightHand = (await this.right?.next(picture, body.marks)) ?? null;
    const face = (await this.face?.next(picture, body.marks)) ?? null;
    return { body, leftHand, rightHand, face };
  }
}
