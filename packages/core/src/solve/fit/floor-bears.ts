/** How thick the body is below some of its points where it lies on the floor, metres. */
const THICK: readonly (readonly [point: RegExp, thickness: number])[] = [
  [/(Shoulder|Hip)$/, 0.06],
  [/(Elbow|Wrist|Knee)$/, 0.03],
  [/Sole$/, 0],
];
/** How softly the floor bears, metres, and how many of these below it counts linearly: a floor may be wrong. */
const SOFT = 0.02;
const YIELDS = 3;

/** How high a point of the body stays above the floor at least, metres; null for those that others keep there. */
export const heightOnFloor = (point: string): number | null => THICK.find(([part]) => part.test(point))?.[1] ?? null;

/** How strongly the floor bears what is so far below it, metres > 0: the weight of the residual. */
export const bearing = (below: number): number => Math.min(1, (YIELDS * SOFT) / below) / SOFT ** 2;
