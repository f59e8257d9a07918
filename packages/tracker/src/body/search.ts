import type { Picture, Region } from '../picture/picture';
import { type BodyDetector, type Detection, mergeOverlapping, wholePicture } from './detector';

/** Parts of the picture's long side that crops have when the whole picture shows nobody: performers of 0.27 and of 0.12 of it. */
const CROP_PARTS = [0.5, 0.3];
/** Weak boxes worth a closer look. */
const WEAK = 0.15;
const CLOSER = 3;

/**
 * Finds bodies that the detector misses in the whole picture because they are small: first round its
 * own weak boxes, then in a grid of overlapping crops, each coarser one before the finer one.
 * @param thorough also tries the grid, which costs some thirty looks.
 */
export async function searchBodies(detector: BodyDetector, picture: Picture, thorough: boolean): Promise<Detection[]> {
  const weak = await detector.find(picture, wholePicture(picture), WEAK);
  const sure = weak.filter((found) => found.score >= 0.5);
  if (sure.length > 0) return sure;
  const closer: Detection[] = [];
  for (const found of weak.slice(0, CLOSER)) {
    const [hx, hy, cx, cy] = found.points;
    closer.push(
      ...(await detector.find(picture, { x: hx, y: hy, size: 2.8 * Math.hypot(cx - hx, cy - hy), angle: 0 })),
    );
  }
  if (closer.length > 0 || !thorough) return mergeOverlapping(closer);
  for (const part of CROP_PARTS) {
    const found: Detection[] = [];
    for (const crop of gridOf(picture, part)) found.push(...(await detector.find(picture, crop)));
    if (found.length > 0) return mergeOverlapping(found);
  }
  return [];
}

/**
 * Squares that cover the picture, each overlapping the next by half.
 * @param part of the picture's long side that they have. @param spare part of a square that may stick out of them on both sides together.
 */
export function gridOf(picture: Picture, part: number, spare = 0): Region[] {
  const size = Math.max(picture.width, picture.height) * part;
  const centres = (length: number): number[] => {
    if (length <= size * (1 + spare)) return [length / 2];
    const count = Math.ceil((length - size) / (size / 2)) + 1;
    return Array.from({ length: count }, (_, i) => size / 2 + ((length - size) * i) / (count - 1));
  };
  return centres(picture.height).flatMap((y) => centres(picture.width).map((x) => ({ x, y, size, angle: 0 })));
}
