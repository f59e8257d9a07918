/** Coefficients of second and fourth differences. */
export const SECOND = [1, -2, 1];
export const FOURTH_DIFFERENCE = [1, -4, 6, -4, 1];

/** Squared length of differences over neighbouring frames, times the squared unit of each frame; the ends have their neighbour's. */
export function differences(
  columns: Float32Array,
  width: number,
  coefficients: readonly number[],
  unit: Float64Array,
): Float64Array {
  const frames = columns.length / width;
  const reach = (coefficients.length - 1) / 2;
  return Float64Array.from({ length: frames }, (_, frame) => {
    const middle = Math.min(frames - 1 - reach, Math.max(reach, frame));
    if (middle < reach) return 0;
    let square = 0;
    for (let k = 0; k < width; k++) {
      let sum = 0;
      for (const [i, factor] of coefficients.entries()) sum += factor * columns[(middle + i - reach) * width + k];
      square += sum * sum;
    }
    return square * unit[middle] * unit[middle];
  });
}

/** Root of the mean of squares around each frame; nothing where they are negative. */
export function aroundEach(squares: Float64Array, reach: number): Float64Array {
  return squares.map((_, frame) => {
    const [from, until] = [Math.max(0, frame - reach), Math.min(squares.length, frame + reach + 1)];
    let sum = 0;
    for (let k = from; k < until; k++) sum += squares[k];
    return Math.sqrt(Math.max(0, sum / (until - from)));
  });
}
