import { MARK, MARK_COUNT } from './body';

/** A trunk is about so long, metres: it tells what a pixel is where the body is. */
export const TRUNK = 0.5;

/** Length of the trunk in the picture, pixels; at least a few. */
export function trunkPixels(marks: Float32Array, frame: number): number {
  const at = (m: number): number => (frame * MARK_COUNT + m) * 3;
  const side = (a: number, b: number): number =>
    Math.hypot(marks[at(a)] - marks[at(b)], marks[at(a) + 1] - marks[at(b) + 1]);
  return Math.max(6, side(MARK.leftShoulder, MARK.leftHip), side(MARK.rightShoulder, MARK.rightHip));
}
