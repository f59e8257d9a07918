/** A bell: 1 at 0, 0.37 a width away from it. */
export const bell = (x: number, width: number): number => Math.exp(-((x / width) ** 2));

/** A soft spot: 1 in its middle, 0 far from it. */
export const spot = (x: number, y: number, wide: number, tall: number): number =>
  Math.exp(-((x / wide) ** 2) - (y / tall) ** 2);
