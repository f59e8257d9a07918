import { FACE_MARK_COUNT } from '@merry-shadow/core/observe/face';
import { HAND_MARK_COUNT } from '@merry-shadow/core/observe/hands';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import type { Observations } from '@merry-shadow/core/observe/observations';
import type { CloseUp } from '../take/stage-controls';

/** A square of the picture: its middle and its side, pixels. */
export interface PictureSquare {
  x: number;
  y: number;
  size: number;
}

/** Frames before and after that steady a close-up. */
const STEADY = 6;
/** How much larger than the face between its temples, and the hand between wrist and middle knuckle, a close-up is. */
const FACE_ROOM = 2.3;
const HAND_ROOM = 4.2;
const [LEFT_TEMPLE, RIGHT_TEMPLE] = [454, 234];
const NOSE_ROOT = 168;
const KNUCKLE = 9;

/** Where the picture must be shown to see a part near by, steadied over some frames; null where it was never seen around. */
export function closeUpOf(seen: Observations, frame: number, part: CloseUp): PictureSquare | null {
  const near: PictureSquare[] = [];
  for (let at = Math.max(0, frame - STEADY); at <= Math.min(seen.frames - 1, frame + STEADY); at++) {
    const one = part === 'face' ? faceAt(seen, at) : handAt(seen, at, part === 'left hand' ? 'left' : 'right');
    if (one && Number.isFinite(one.x + one.y + one.size) && one.size > 0) near.push(one);
  }
  if (near.length === 0) return null;
  const mean = (pick: (square: PictureSquare) => number): number =>
    near.reduce((sum, square) => sum + pick(square), 0) / near.length;
  return { x: mean(({ x }) => x), y: mean(({ y }) => y), size: mean(({ size }) => size) };
}

function faceAt({ face, marks }: Observations, frame: number): PictureSquare | null {
  if (face && face.presence[frame] > 0) {
    const at = (mark: number): number => (frame * FACE_MARK_COUNT + mark) * 3;
    const [a, b, nose] = [LEFT_TEMPLE, RIGHT_TEMPLE, NOSE_ROOT].map(at);
    const apart = Math.hypot(...[0, 1, 2].map((k) => face.marks[a + k] - face.marks[b + k]));
    if (Number.isFinite(apart))
      return { x: face.marks[nose], y: face.marks[nose + 1] + 0.15 * apart, size: apart * FACE_ROOM };
  }
  const at = (frame * MARK_COUNT + MARK.nose) * 3;
  const [ear, other] = [MARK.leftEar, MARK.rightEar].map((mark) => (frame * MARK_COUNT + mark) * 3);
  return {
    x: marks[at],
    y: marks[at + 1],
    size: Math.max(20, Math.hypot(marks[ear] - marks[other], marks[ear + 1] - marks[other + 1]) * FACE_ROOM),
  };
}

function handAt({ hands, marks }: Observations, frame: number, side: 'left' | 'right'): PictureSquare {
  const hand = hands?.[side];
  if (hand && hand.presence[frame] > 0) {
    const at = frame * HAND_MARK_COUNT * 2;
    const [x, y] = [hand.marks[at + KNUCKLE * 2], hand.marks[at + KNUCKLE * 2 + 1]];
    const palm = Math.hypot(x - hand.marks[at], y - hand.marks[at + 1]);
    if (Number.isFinite(palm)) return { x, y, size: Math.max(30, palm * HAND_ROOM) };
  }
  const [wrist, elbow] = [`${side}Wrist`, `${side}Elbow`].map(
    (name) => (frame * MARK_COUNT + MARK[name as keyof typeof MARK]) * 3,
  );
  const arm = Math.hypot(marks[wrist] - marks[elbow], marks[wrist + 1] - marks[elbow + 1]);
  return { x: marks[wrist], y: marks[wrist + 1], size: Math.max(30, arm * 1.2) };
}
