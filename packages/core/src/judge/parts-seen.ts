import { MARK, type MarkName } from '../observe/body';

/** Parts of a performer that are told apart while they are watched, in words. */
export const WATCHED_PARTS = {
  head: 'Head',
  trunk: 'Trunk',
  leftArm: 'Left arm',
  rightArm: 'Right arm',
  leftLeg: 'Left leg',
  rightLeg: 'Right leg',
} as const;
export type WatchedPart = keyof typeof WATCHED_PARTS;

/** Marks by which each part counts as seen. */
export const WATCHED_MARKS: Record<WatchedPart, readonly MarkName[]> = {
  head: ['nose'],
  trunk: ['leftShoulder', 'rightShoulder', 'leftHip', 'rightHip'],
  leftArm: ['leftElbow', 'leftWrist'],
  rightArm: ['rightElbow', 'rightWrist'],
  leftLeg: ['leftKnee', 'leftAnkle'],
  rightLeg: ['rightKnee', 'rightAnkle'],
};
/** A mark that the network is less sure of is taken for hidden. */
const VISIBLE = 0.5;

/**
 * Which parts are seen: all their marks lie in the picture and are not hidden.
 * @param marks 33 × (x, y, visibility), pixels; null when nobody is seen.
 */
export function partsSeen(
  marks: ArrayLike<number> | null,
  { width, height }: { width: number; height: number },
): Record<WatchedPart, boolean> {
  const isShown = (name: MarkName): boolean => {
    const [x, y, visibility] = [0, 1, 2].map((k) => (marks ? marks[MARK[name] * 3 + k] : NaN));
    return x >= 0 && y >= 0 && x < width && y < height && visibility >= VISIBLE;
  };
  const entries = Object.entries(WATCHED_MARKS).map(([part, names]) => [part, names.every(isShown)]);
  return Object.fromEntries(entries) as Record<WatchedPart, boolean>;
}
