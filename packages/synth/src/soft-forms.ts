/** 0 below 0, 1 above 1, with soft ends between. */
export function smoothStep(t: number): number {
  const u = Math.min(1, Math.max(0, t));
  return u * u * (3 - 2 * u);
}

/** A bell: 1 at 0, 0.37 a width away from it. */
export const bell = (x: number, width: number): number => Math.exp(-((x / width) ** 2));

/** A soft spot: 1 in its middle, 0 far from it. */
export const spot = (x: number, y: number, wide: number, tall: number): number =>
  Math.exp(-((x / wide) ** 2) - (y / tall) ** 2);
