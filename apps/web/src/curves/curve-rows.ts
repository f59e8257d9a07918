import { CurveCourse, type CurveKey } from '@merry-shadow/core/curves/curve';

/** Rows that were worked out, by their keys and by what lies below them. */
const known = new WeakMap<readonly CurveKey[], { below: Float64Array; row: Float64Array }>();

/** The values of a line frame by frame: those of its keys from the first to the last one, of what lies below beside them. */
export function rowOf(keys: readonly CurveKey[], below: Float64Array): Float64Array {
  if (keys.length === 0) return below;
  const before = known.get(keys);
  if (before?.below === below) return before.row;
  const row = below.slice();
  const course = new CurveCourse(keys);
  const end = Math.min(row.length - 1, keys[keys.length - 1].frame);
  for (let frame = Math.max(0, keys[0].frame); frame <= end; frame++) row[frame] = course.at(frame);
  known.set(keys, { below, row });
  return row;
}

/** How wide a column is whose least and greatest value are drawn where frames lie closer than pixels. */
const COLUMN = 2;

/**
 * Adds a row's values to a path. Where several frames fall into a column of pixels, its least and its greatest value are drawn in their order, so that a spike of one frame is seen
 * from afar, too.
 * @param from first frame and frame behind the last. @param x place of frame 0 and pixels a frame. @param y height of 0 and pixels a unit.
 */
export function traceRow(
  path: Pick<Path2D, 'moveTo' | 'lineTo'>,
  row: ArrayLike<number>,
  [from, until]: readonly [number, number],
  [left, apart]: readonly [number, number],
  [ground, rise]: readonly [number, number],
): void {
  const step = Math.max(1, Math.floor(COLUMN / apart));
  if (from < until) path.moveTo(left + apart * from, ground + rise * row[from]);
  const add = (frame: number): void => path.lineTo(left + apart * frame, ground + rise * row[frame]);
  for (let begin = from; begin < until; begin += step) {
    const end = Math.min(until, begin + step);
    let [low, high] = [begin, begin];
    for (let frame = begin + 1; frame < end; frame++) {
      if (row[frame] < row[low]) low = frame;
      else if (row[frame] > row[high]) high = frame;
    }
    add(Math.min(low, high));
    if (low !== high) add(Math.max(low, high));
  }
}
