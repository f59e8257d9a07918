import { gaussianColumns, gaussianReach } from './gaussian';

/** A smooth course that is nowhere below given values: their running maximum over some frames to either side, then a Gaussian of half that width. */
export function coverSmoothly(values: ArrayLike<number>, wide: number): Float32Array {
  const most = Float32Array.from(values, (_, frame) => {
    let value = 0;
    for (let k = Math.max(0, frame - wide); k <= Math.min(values.length - 1, frame + wide); k++)
      value = Math.max(value, values[k]);
    return value;
  });
  return gaussianColumns(most, 1, wide / 2);
}

/** Frames to either side that one value reaches. */
export const coverReach = (wide: number): number => wide + gaussianReach(wide / 2);
