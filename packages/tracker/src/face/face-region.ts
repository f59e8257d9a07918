import { MARK, type MarkName } from '@merry-shadow/core/observe/body';
import type { Region } from '../picture/picture';

const SCALE = 1.5;
const RIGHT_CORNER = 33;
const LEFT_CORNER = 263;

/** Where the face should be, as far as the body's marks tell. @param marks 33 × 3 of one frame. */
export function faceRegionFromBody(marks: ArrayLike<number>): Region {
  const point = (name: MarkName): [number, number] => [marks[MARK[name] * 3], marks[MARK[name] * 3 + 1]];
  const between = (a: readonly number[], b: readonly number[]): [number, number] => [
    (a[0] + b[0]) / 2,
    (a[1] + b[1]) / 2,
  ];
  const distance = (a: readonly number[], b: readonly number[]): number => Math.hypot(a[0] - b[0], a[1] - b[1]);
  const eyes = between(point('leftEye'), point('rightEye'));
  const mouth = between(point('mouthLeft'), point('mouthRight'));
  const middle = between(eyes, mouth);
  const height = distance(eyes, mouth);
  // The face as a whole is about 2.6 times as high as eyes and mouth lie apart.
  const size = Math.max(2.6 * height, distance(point('leftEar'), point('rightEar'))) * SCALE;
  return { x: middle[0], y: middle[1], size, angle: Math.atan2(mouth[1] - eyes[1], mouth[0] - eyes[0]) - Math.PI / 2 };
}

/** The region for the next look from a face's marks. @param marks at least 468 × 3: x, y pixels, z. */
export function faceRegionFromMarks(marks: ArrayLike<number>): Region {
  const angle = Math.atan2(
    marks[LEFT_CORNER * 3 + 1] - marks[RIGHT_CORNER * 3 + 1],
    marks[LEFT_CORNER * 3] - marks[RIGHT_CORNER * 3],
  );
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < 468; i++) {
    const x = c * marks[i * 3] + s * marks[i * 3 + 1];
    const y = -s * marks[i * 3] + c * marks[i * 3 + 1];
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  return { x: c * x - s * y, y: s * x + c * y, size: Math.max(right - left, bottom - top) * SCALE, angle };
}

/** Where a face that fills the picture may be: its middle and size, parts of the shorter side. */
const LOOKS = [
  [0, 0, 1.15],
  [0, 0, 0.8],
  [0, -0.12, 0.95],
  [0, 0.12, 0.95],
  [-0.2, 0, 0.95],
  [0.2, 0, 0.95],
] as const;

export const regionsThatFill = ({ width, height }: { width: number; height: number }): Region[] =>
  LOOKS.map(([aside, down, size]) => {
    const side = Math.min(width, height);
    return { x: width / 2 + aside * side, y: height / 2 + down * side, size: size * side, angle: 0 };
  });
