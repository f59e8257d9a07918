import type { Motion } from '../../motion/motion';
import type { Evidence } from './evidence';
import { fitWindow } from './fit-window';

/** Frames that are fitted at once: what a second look at the neighbours can tell lies well within. */
const WINDOW = 900;
/** Frames of a window that the next one fits again, with more of what follows them in sight. */
const OVERLAP = 60;
/** Frames that a window takes over as they are, so that path and turns go on smoothly. */
const HELD = 2;

/**
 * Fits a motion to all evidence of a take. Long takes are fitted in windows that overlap, so that time
 * grows evenly with the length and memory does not grow with it. Changes the motion in place.
 * @param steps Gauss–Newton steps for each window.
 */
export function fitTake(motion: Motion, evidence: Evidence, steps: number, window = WINDOW): void {
  for (let first = 0; ;) {
    const until = Math.min(motion.frames, first + window);
    fitWindow(motion, evidence, steps, { first, until, held: first === 0 ? 0 : HELD });
    if (until === motion.frames) return;
    first = until - OVERLAP;
  }
}
