import { MARK, type MarkName } from '../observe/body';
import { outsideOf } from './body-look';

/** What a live view knows of the last moment. */
export interface LiveMoment {
  /** 33 × (x, y, visibility); null when nobody is seen. */
  marks: ArrayLike<number> | null;
  width: number;
  height: number;
  /** Brightness of the performer, 0 … 255; null where it was not measured. */
  light: number | null;
  /** How fast the camera moves, parts of the long side in a second; null where that is not told. */
  camera: number | null;
}

/** What is wrong while one can still mend it, in words that are read from far away; the gravest alone. */
export const LIVE_ADVICE = {
  nobody: 'Nobody is seen',
  back: 'Step back',
  nearer: 'Come nearer',
  feet: 'Feet are out of the picture',
  head: 'Head is out of the picture',
  left: 'Move to your left',
  right: 'Move to your right',
  light: 'More light',
  camera: 'The camera shakes',
} as const;
export type LiveAdvice = keyof typeof LIVE_ADVICE;

/** A body that is so small against the picture's long side should come nearer, and with so little light it is too dark. */
const SMALL = 0.26;
const DARK = 32;
const SHAKES = 0.02;
const MISSED = 0.5;

/** @returns null when all is well. */
export function liveAdvice({ marks, width, height, light, camera }: LiveMoment): LiveAdvice | null {
  if (!marks) return 'nobody';
  const outside = (part: 'head' | 'hands' | 'feet'): boolean => outsideOf(marks, part, { width, height }) >= MISSED;
  const [head, feet] = [outside('head'), outside('feet')];
  if ((head && feet) || outsideOf(marks, 'legs', { width, height }) === 1) return 'back';
  if (head) return 'head';
  if (feet) return 'feet';
  if (outside('hands')) return sideways(marks, width) ?? 'back';
  if (bodyHeight(marks) < SMALL * Math.max(width, height)) return 'nearer';
  if (light !== null && light < DARK) return 'light';
  if (camera !== null && camera > SHAKES) return 'camera';
  return null;
}

/** Who stands at one border, with room at the other, needs to move aside. The camera sees the performer's left at its right. */
function sideways(marks: ArrayLike<number>, width: number): LiveAdvice | null {
  const hips = (marks[MARK.leftHip * 3] + marks[MARK.rightHip * 3]) / 2;
  if (hips < 0.3 * width) return 'left';
  return hips > 0.7 * width ? 'right' : null;
}

function bodyHeight(marks: ArrayLike<number>): number {
  const y = (name: MarkName): number => marks[MARK[name] * 3 + 1];
  return Math.max(y('leftHeel'), y('rightHeel')) - Math.min(y('nose'), y('leftEar'), y('rightEar'));
}

/** Arms crossed over the head, the sign that starts and stops a recording without hands: wrists above the head, each on the other's side. */
export function crossesArms(marks: ArrayLike<number>): boolean {
  const at = (name: MarkName): [number, number] => [marks[MARK[name] * 3], marks[MARK[name] * 3 + 1]];
  const [left, right, nose] = [at('leftWrist'), at('rightWrist'), at('nose')];
  const shoulders = at('leftShoulder')[0] - at('rightShoulder')[0];
  const seen = (['leftWrist', 'rightWrist', 'nose'] as const).every((name) => marks[MARK[name] * 3 + 2] > 0.4);
  // Seen from the front, the left shoulder is at the right of the picture.
  return (
    seen &&
    Math.max(left[1], right[1]) < nose[1] &&
    (left[0] - right[0]) * Math.sign(shoulders) < -0.12 * Math.abs(shoulders)
  );
}
