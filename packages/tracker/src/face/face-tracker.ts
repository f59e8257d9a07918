import { headTurn, type FaceGeometry } from '@merry-shadow/core/face/head-turn';
import { MARK } from '@merry-shadow/core/observe/body';
import type { Picture, Region } from '../picture/picture';
import { steadyRegion } from '../picture/steady';
import type { FaceNets } from '../runtime/net';
import { FaceMarker, type FaceMarks } from './face-marker';
import { faceRegionFromBody, faceRegionFromMarks, regionsThatFill } from './face-region';

const SURE = 0.6;
const STEADY_WEIGHT = 0.3;
/** A first look whose region is rough needs no more. */
const ROUGHLY = 0.3;
/** The plain network is asked again after this many frames. */
const CONFIRM_EVERY = 30;
/** Farthest that the middle of the face may lie from the body's marks of it, in sizes of the region. */
const FARTHEST = 0.25;

/** How large a face's region is at least that fills the picture, parts of its shorter side. */
const FILLS = 0.6;

export interface TrackedFace extends FaceMarks {
  turn: [number, number, number, number];
}

/** Follows one face beside a body. A face that is turned away or hidden is a gap, never a guess. */
export class FaceTracker {
  private readonly marker: FaceMarker;
  private region: Region | null = null;
  private sinceConfirmed = 0;
  private sinceSearched = 0;

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
    return this.follow(
      picture,
      () => [expected],
      (region) => region.size <= expected.size * 2 && !this.astray(region, body),
    );
  }

  /**
   * A face that fills the picture: a camera that is held on the head shows no body.
   * @param every it is looked for again after so many frames.
   */
  async alone(picture: Picture, every: number): Promise<TrackedFace | null> {
    const side = Math.min(picture.width, picture.height);
    const looks = (): Region[] => (this.sinceSearched++ % every === 0 ? regionsThatFill(picture) : []);
    return this.follow(picture, looks, ({ size }) => size >= FILLS * side);
  }

  /**
   * Follows the face that is held, or takes up another one.
   * @param looks where it may be. @param believed whether a face in a region can be the one.
   */
  private async follow(
    picture: Picture,
    looks: () => readonly Region[],
    believed: (region: Region) => boolean,
  ): Promise<TrackedFace | null> {
    let { region } = this;
    if (!region) {
      region = await this.takeUp(picture, looks());
      if (!region) return null;
    }
    if (this.sinceConfirmed++ % CONFIRM_EVERY === 0 && !(await this.marker.confirm(picture, region)))
      return this.lose();
    const face = await this.marker.read(picture, region);
    const next = faceRegionFromMarks(face.marks);
    if (!(face.presence > SURE) || !believed(next)) return this.lose();
    this.region = this.plain ? next : steadyRegion(region, next, STEADY_WEIGHT);
    return { ...face, turn: headTurn(face.marks, this.geometry, picture.width, picture.height) };
  }

  /** The region of the likeliest face of some looks. */
  private async takeUp(picture: Picture, looks: readonly Region[]): Promise<Region | null> {
    let best: FaceMarks | null = null;
    for (const look of looks) {
      const rough = await this.marker.read(picture, look, false);
      if (rough.presence > Math.max(ROUGHLY, best?.presence ?? 0)) best = rough;
    }
    this.sinceConfirmed = 0;
    return best && faceRegionFromMarks(best.marks);
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
