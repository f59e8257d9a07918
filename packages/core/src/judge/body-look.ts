import { MARK, type MarkName } from '../observe/body';
import type { FramedPart } from './looks';

/** Marks of the parts that may leave the picture; hands are weighed one by one. */
const PART_MARKS: Record<FramedPart, readonly (readonly MarkName[])[]> = {
  head: [['nose', 'leftEye', 'rightEye', 'leftEar', 'rightEar']],
  hands: [
    ['leftWrist', 'leftIndex', 'leftPinky', 'leftThumb'],
    ['rightWrist', 'rightIndex', 'rightPinky', 'rightThumb'],
  ],
  legs: [['leftKnee', 'rightKnee']],
  feet: [['leftAnkle', 'rightAnkle', 'leftHeel', 'rightHeel', 'leftFootIndex', 'rightFootIndex']],
};

/** From the line of the eyes to the mouth, and from the brows to the chin: an average face's share. */
const FACE_OF_EYES_TO_MOUTH = 1.9;
/** The nose of a face that looks at the camera is so much nearer to it than the ears, metres. */
const TOWARDS = 0.03;

type Size = { width: number; height: number };

/** Part of a body part's marks (x, y, visibility) that lie outside the picture, 0 … 1; of hands the worse one. */
export function outsideOf(marks: ArrayLike<number>, part: FramedPart, { width, height }: Size): number {
  const shares = PART_MARKS[part].map((names) => {
    const outside = names.filter((name) => {
      const [x, y] = [marks[MARK[name] * 3], marks[MARK[name] * 3 + 1]];
      return !(x >= 0 && y >= 0 && x < width && y < height);
    });
    return outside.length / names.length;
  });
  return Math.max(...shares);
}

/** Marks whose movement tells that somebody acts. */
const MOVING: readonly MarkName[] = [
  'leftWrist',
  'rightWrist',
  'leftAnkle',
  'rightAnkle',
  'leftHip',
  'rightHip',
  'nose',
];

/** How far the body moved between two looks, the mean over hands, feet, hips and head, in pixels. */
export function wayBetween(before: ArrayLike<number>, now: ArrayLike<number>): number {
  const ways = MOVING.map((name) =>
    Math.hypot(...[0, 1].map((k) => now[MARK[name] * 3 + k] - before[MARK[name] * 3 + k])),
  );
  return ways.reduce((sum, way) => sum + way, 0) / ways.length;
}

/**
 * Height of the face in the picture, brows to chin, pixels; 0 when it looks away.
 * @param marks 33 × (x, y, visibility). @param world 33 × metres, +Z to the camera.
 */
export function faceHeight(marks: ArrayLike<number>, world: ArrayLike<number>): number {
  const middle = (list: ArrayLike<number>, a: MarkName, b: MarkName, axis: number): number =>
    (list[MARK[a] * 3 + axis] + list[MARK[b] * 3 + axis]) / 2;
  if (world[MARK.nose * 3 + 2] - middle(world, 'leftEar', 'rightEar', 2) < TOWARDS) return 0;
  const apart = [0, 1].map(
    (axis) => middle(marks, 'leftEye', 'rightEye', axis) - middle(marks, 'mouthLeft', 'mouthRight', axis),
  );
  return FACE_OF_EYES_TO_MOUTH * Math.hypot(apart[0], apart[1]);
}
