import { headTurn, type FaceGeometry } from '@merry-shadow/core/face/head-turn';
import { MARK } from '@merry-shadow/core/observe/body';
import type { Picture, Region } from '../picture/picture';
import { steadyRegion } from '../picture/steady';
import type { FaceNets } from '../runtime/net';
import { FaceMarker, type FaceMarks } from './face-marker';
import { faceRegionFromBody, faceRegionFromMarks } from './face-region';

const SURE = 0.6;
const STEADY_WEIGHT = 0.3;
/** The plain network is asked again after this many frames. */
const CONFIRM_EVERY = 30;
/** Farthest that the middle of the face may lie from the body's marks of it, in sizes of the region. */
const FARTHEST = 0.25;

export interface TrackedFace extends FaceMarks {
  turn: [number, number, number, number];
}

/** Follows one face beside a body. A face that is turned away or hidden is a gap, never a guess. */
export class FaceTracker {
  private readonly marker: FaceMarker;
  private region: Region | null = null;
  private sinceConfirmed = 0;

  constructor(
    nets: FaceNets,
    private readonly geometry: FaceGeometry,
    private readonly plain = false,
  ) {
    this.marker = new FaceMarker(nets);
  }

  reset(): void {
    this.region = null;
  }

  /** @param body 33 × 3 marks of the same frame. */
  async next(picture: Picture, body: ArrayLike<number>): Promise<TrackedFace | null> {
    const expected = faceRegionFromBody(body);
    if (!(expected.size > 12)) return this.lose();
    let region = this.region;
    if (!region) {
      const rough = await this.marker.read(picture, expected, false);
      if (!(rough.presence > 0.3)) return this.lose();
      region = faceRegionFromMarks(rough.marks);
      if (!(await this.marker.confirm(picture, region))) return this.lose();
      this.sinceConfirmed = 0;
    } else if (++this.sinceConfirmed >= CONFIRM_EVERY) {
      if (!(await this.marker.confirm(picture, region))) return this.lose();
      this.sinceConfirmed = 0;
    }
    const face = await this.marker.read(picture, region);
    const next = faceRegionFromMarks(face.marks);
    if (!(face.presence > SURE) || next.size > expected.size * 2 || this.astray(next, body)) return this.lose();
    this.region = this.plain ? next : steadyRegion(region, next, STEADY_WEIGHT);
    return { ...face, turn: headTurn(face.marks, this.geometry, picture.width, picture.height) };
  }

  private astray(region: Region, body: ArrayLike<number>): boolean {
    const nose = MARK.nose * 3;
    return Math.hypot(region.x - body[nose], region.y - body[nose + 1]) > FARTHEST * 2 * region.size;
  }

  private lose(): null {
    this.region = null;
    return null;
  }
}
