/** A part of a take that is tracked on its own. */
export interface Segment {
  /** First frame within the take. */
  first: number;
  frames: number;
}

/** Frames of a segment of a long take. */
const LONG = 300;
const SHORTEST = 60;

/**
 * Cuts a take into segments for several threads. It depends on the length alone, so the result is the
 * same with any number of threads, and the stored pieces of a broken-off run fit the next one.
 */
export function planSegments(frames: number): Segment[] {
  const parts = frames >= 2 * LONG ? Math.ceil(frames / LONG) : frames >= 2 * SHORTEST ? 2 : 1;
  const size = Math.ceil(frames / parts);
  return Array.from({ length: parts }, (_, i) => ({
    first: i * size,
    frames: Math.min(size, frames - i * size),
  })).filter((segment) => segment.frames > 0);
}
