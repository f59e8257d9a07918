import { shapeCurve } from './face-shapes';

/** The curves of both lids. */
export const LID_CURVES = [shapeCurve('eyeBlinkLeft'), shapeCurve('eyeBlinkRight')] as const;

/** Lids that come down and go up again. */
export interface Blink {
  /** Frames in which they are away from open: from … until − 1. */
  from: number;
  until: number;
  /** The first and the last frame in which they are closed as far as they get. */
  top: number;
  last: number;
  /** How far they close, 0 … 1. */
  height: number;
}

/** Lids this much away from open have begun to move. */
const OPEN = 0.08;
/** As far closed as they get, nearly. */
const CLOSED = 0.9;

/** Finds the blinks of a curve of lids. @param least how far lids must come down. */
export function findBlinks(lids: ArrayLike<number>, least: number): Blink[] {
  const blinks: Blink[] = [];
  for (let frame = 0; frame < lids.length; frame++) {
    if (lids[frame] < OPEN) continue;
    const from = frame;
    let top = frame;
    for (; frame < lids.length && lids[frame] >= OPEN; frame++) if (lids[frame] > lids[top]) top = frame;
    const height = lids[top];
    if (height < least) continue;
    let last = top;
    for (let i = top; i < frame; i++) if (lids[i] >= height * CLOSED) last = i;
    while (top > from && lids[top - 1] >= height * CLOSED) top--;
    blinks.push({ from, until: frame, top, last, height });
  }
  return blinks;
}
