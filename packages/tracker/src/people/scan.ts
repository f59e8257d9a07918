import { BodyDetector, mergeOverlapping, type Detection } from '../body/detector';
import { gridOf, searchBodies } from '../body/search';
import type { Picture } from '../picture/picture';
import type { BodyNets } from '../runtime/net';
import { readAppearance } from './appearance';
import { associate, type Person, type Sighting } from './associate';

/** Crops that are looked at besides the whole picture, so that people farther back are found, too. */
const CROP_PART = 0.5;

/** Looks for people, frame by frame. */
export class PeopleScan {
  private readonly detector: BodyDetector;
  private readonly frames: Sighting[][] = [];

  /** @param spare see `gridOf`: a wide picture is searched in one row of crops instead of two that all but coincide, which finds somebody small less surely. */
  constructor(
    nets: Pick<BodyNets, 'bodyDetector'>,
    private readonly spare = 0,
  ) {
    this.detector = new BodyDetector(nets.bodyDetector);
  }

  /** @param frame of the clip. @param close also looks into crops. @returns who was seen. */
  async look(picture: Picture, frame: number, close = true): Promise<Sighting[]> {
    const found = [...(await searchBodies(this.detector, picture, close))];
    if (close)
      for (const crop of gridOf(picture, CROP_PART, this.spare))
        found.push(...(await this.detector.find(picture, crop)));
    const sightings = samePerson(mergeOverlapping(found)).map(({ score, points }): Sighting => {
      const hip: [number, number] = [points[0], points[1]];
      const shoulder: [number, number] = [points[4], points[5]];
      return {
        frame,
        score,
        hip,
        circle: [points[2], points[3]],
        shoulder,
        appearance: readAppearance(picture, hip, shoulder),
      };
    });
    this.frames.push(sightings);
    return sightings;
  }

  people(): Person[] {
    return associate(this.frames);
  }
}

/** Of detections whose hips all but coincide, the best one. */
function samePerson(found: readonly Detection[]): Detection[] {
  const kept: Detection[] = [];
  for (const item of found) {
    const size = (d: Detection): number => Math.hypot(d.points[2] - d.points[0], d.points[3] - d.points[1]);
    if (
      !kept.some(
        (other) =>
          Math.hypot(other.points[0] - item.points[0], other.points[1] - item.points[1]) <
          0.25 * Math.max(size(item), size(other)),
      )
    )
      kept.push(item);
  }
  return kept;
}
