/** Values at some frames, and the way between them. */
export interface KeyCourse {
  /** Rising. */
  frames: readonly number[];
  /** A row of numbers for each. */
  values: readonly (readonly number[])[];
  /** How fast each number changes at each key, in a frame. */
  slopes: readonly (readonly number[])[];
}

/**
 * A smooth course through keys that never goes beyond two neighbours: cubic pieces with slopes that are limited by those of both sides (M. Steffen, "A simple
 * method for monotonic interpolation in one dimension", Astronomy and Astrophysics 239, 1990). It stands still at the first and last key.
 * @param frames rising. @param values rows of the same length, one for each.
 */
export function courseThrough(frames: readonly number[], values: readonly (readonly number[])[]): KeyCourse {
  const last = frames.length - 1;
  const slopes = values.map((row, i) =>
    row.map((value, k) => {
      if (i === 0 || i === last) return 0;
      const [before, after] = [frames[i] - frames[i - 1], frames[i + 1] - frames[i]];
      return limitedSlope((value - values[i - 1][k]) / before, (values[i + 1][k] - value) / after, before, after);
    }),
  );
  return { frames, values, slopes };
}

/** The slope at a key that goes beyond none of its neighbours (Steffen 1990). @param rise to it, and @param next from it, in a frame. @param before frames to the key before, and @param after to the next. */
export function limitedSlope(rise: number, next: number, before: number, after: number): number {
  const middle = (rise * after + next * before) / (before + after);
  return (Math.sign(rise) + Math.sign(next)) * Math.min(Math.abs(rise), Math.abs(next), Math.abs(middle) / 2);
}

/** Fills `out` with the course's values in a frame; beside the first and last key those hold. */
export function courseAt({ frames, values, slopes }: KeyCourse, frame: number, out: number[]): void {
  const last = frames.length - 1;
  if (frame <= frames[0] || frame >= frames[last]) {
    const row = values[frame <= frames[0] ? 0 : last];
    for (let k = 0; k < row.length; k++) out[k] = row[k];
    return;
  }
  let i = 0;
  for (let high = last; high - i > 1;) {
    const middle = (i + high) >> 1;
    if (frames[middle] <= frame) i = middle;
    else high = middle;
  }
  const span = frames[i + 1] - frames[i];
  const t = (frame - frames[i]) / span;
  // Hermite's cubic pieces.
  const [a, b] = [t * t * (3 - 2 * t), t * t * (t - 1) * span];
  const c = t * (1 - t) * (1 - t) * span;
  for (let k = 0; k < values[i].length; k++)
    out[k] = values[i][k] * (1 - a) + values[i + 1][k] * a + slopes[i][k] * c + slopes[i + 1][k] * b;
}
