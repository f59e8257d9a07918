import type { Picture, Region } from '../picture/picture';
import { CutWatch } from '../picture/cuts';
import { smallPicture } from '../picture/small-picture';
import { steadyRegion } from '../picture/steady';
import type { ReadingRules } from '../reading-rules';
import type { BodyNets } from '../runtime/net';
import { readAppearance } from '../people/appearance';
import { isCrossing, isOwn, placeAt, type Guide } from '../people/guide';
import { BodyDetector, type Detection } from './detector';
import { BodyMarker, type BodyMarks } from './marks';
import { OneEuroFilter } from './one-euro';
import { bodyRegion } from './region';
import { searchBodies } from './search';

const GUIDE_FILTER = { minCutoff: 0.01, beta: 10, derivativeCutoff: 1 };
const SURE = 0.5;
/** Weight of the new region when regions are steadied; halves the shake at no cost in accuracy. */
const STEADY_WEIGHT = 0.15;
/** Seconds for which a lost body is looked for at its last place, too. */
const HOLD_SECONDS = 1;
/** Seconds between two thorough searches for somebody small while nobody is seen. */
const SEARCH_SECONDS = 0.5;
const SHOULDERS = [11 * 3, 12 * 3];
const HIPS = [23 * 3, 24 * 3];

export interface BodyTrackerOptions extends ReadingRules {
  /** Live: no thorough searches, which would hold up the picture. */
  quick?: boolean;
  /** Which of several people to follow. */
  guide?: Guide;
  /** Frame of the clip that the first picture is: what the guide counts in. */
  firstFrame?: number;
}

export interface TrackedBody extends BodyMarks {
  /** The detector's score, where it had to look. */
  detection: number | null;
  region: Region;
}

/** Follows one body from frame to frame: detector → region → marks → next region. */
export class BodyTracker {
  private readonly detector: BodyDetector;
  private readonly marker: BodyMarker;
  private readonly filters = Array.from({ length: 4 }, () => new OneEuroFilter(GUIDE_FILTER));
  private readonly cuts = new CutWatch();
  private region: Region | null = null;
  private last: Region | null = null;
  private lostFor = 0;
  private frame: number;

  constructor(
    nets: BodyNets,
    private readonly options: BodyTrackerOptions = {},
  ) {
    this.detector = new BodyDetector(nets.bodyDetector);
    this.marker = new BodyMarker(nets.bodyMarks, options.fine);
    this.frame = (options.firstFrame ?? 0) - 1;
  }

  /** Forgets the body, as after a cut. */
  reset(): void {
    this.drop();
    this.last = null;
    this.lostFor = 0;
  }

  /** Lets go of the region and its filters, but remembers where it was. */
  private drop(): void {
    this.last = this.region ?? this.last;
    this.region = null;
    for (const filter of this.filters) filter.reset();
  }

  /**
   * Reads the next frame.
   * @param seconds since the frame before, > 0.
   * @returns null when nobody is seen.
   */
  async next(picture: Picture, seconds: number): Promise<TrackedBody | null> {
    this.frame++;
    if (this.options.plain) return this.lookPlain(picture, seconds);
    if (this.cuts.next(smallPicture(picture))) this.reset();
    const body =
      (this.region && (await this.read(picture, this.region, seconds, null))) ?? (await this.find(picture, seconds));
    this.lostFor = body ? 0 : this.lostFor + seconds;
    return body;
  }

  /** The exact rule: a lost body is searched for in the next frame, the best detection is taken. */
  private async lookPlain(picture: Picture, seconds: number): Promise<TrackedBody | null> {
    if (this.region) return this.read(picture, this.region, seconds, null);
    const [best] = await this.detector.find(picture);
    return best ? this.read(picture, regionOf(best), seconds, best.score) : null;
  }

  private async find(picture: Picture, seconds: number): Promise<TrackedBody | null> {
    const { guide } = this.options;
    if (guide && isCrossing(guide, this.frame)) return null;
    const due =
      !this.options.quick &&
      (this.lostFor === 0 ||
        Math.floor(this.lostFor / SEARCH_SECONDS) !== Math.floor((this.lostFor - seconds) / SEARCH_SECONDS));
    const found = await searchBodies(this.detector, picture, due);
    for (const detection of this.ordered(found)) {
      const body = await this.read(picture, regionOf(detection), seconds, detection.score);
      if (body) return body;
    }
    const place = guide ? placeAt(guide.own, this.frame) : null;
    if (place) return this.read(picture, bodyRegion(...place), seconds, 0);
    if (this.last && this.lostFor < HOLD_SECONDS) return this.read(picture, this.last, seconds, 0);
    return null;
  }

  /** The likeliest first: near the guide, or near where the body was lost a moment ago, or the surest. */
  private ordered(found: readonly Detection[]): Detection[] {
    const { guide } = this.options;
    const place = guide ? placeAt(guide.own, this.frame) : null;
    if (place) return byDistance(found, place[0], place[1]).filter((item) => apart(item, place[0], place[1]) < 0.8);
    if (guide) return [];
    if (this.last && this.lostFor < HOLD_SECONDS) return byDistance(found, this.last.x, this.last.y);
    return [...found];
  }

  private async read(
    picture: Picture,
    region: Region,
    seconds: number,
    detection: number | null,
  ): Promise<TrackedBody | null> {
    const body = await this.marker.read(picture, region);
    if (!(body.presence > SURE) || !this.isMine(picture, body)) {
      this.region ??= region;
      this.drop();
      return null;
    }
    this.region = this.nextRegion(body.guides, seconds, detection === null ? region : null);
    return { ...body, detection, region };
  }

  private isMine(picture: Picture, { marks, guides }: BodyMarks): boolean {
    const { guide } = this.options;
    if (!guide) return true;
    const middle = ([a, b]: number[]): [number, number] => [
      (marks[a] + marks[b]) / 2,
      (marks[a + 1] + marks[b + 1]) / 2,
    ];
    const hip = middle(HIPS);
    return isOwn(
      guide,
      this.frame,
      [guides[0], guides[1]],
      Math.hypot(guides[2] - guides[0], guides[3] - guides[1]),
      readAppearance(picture, hip, middle(SHOULDERS)),
    );
  }

  private nextRegion(guides: BodyMarks['guides'], seconds: number, before: Region | null): Region {
    const scale = 1 / Math.max(1e-6, 2 * Math.hypot(guides[2] - guides[0], guides[3] - guides[1]));
    const [hx, hy, cx, cy] = guides.map((value, i) => this.filters[i].next(value, seconds, scale));
    const next = bodyRegion(hx, hy, cx, cy);
    return this.options.plain || before === null ? next : steadyRegion(before, next, STEADY_WEIGHT);
  }
}

const regionOf = ({ points }: Detection): Region => bodyRegion(points[0], points[1], points[2], points[3]);

/** Distance of a detection's hips from a place, in radii of its body. */
function apart({ points }: Detection, x: number, y: number): number {
  return (
    Math.hypot(points[0] - x, points[1] - y) / Math.max(1, Math.hypot(points[2] - points[0], points[3] - points[1]))
  );
}

const byDistance = (found: readonly Detection[], x: number, y: number): Detection[] =>
  [...found].sort((a, b) => apart(a, x, y) - apart(b, x, y));
