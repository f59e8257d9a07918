import { smoothStep } from '../motion/turns-from-axes';
import type { Run } from './runs';

/** 1 within a run of frames, falling smoothly to 0 over an ease of so many frames beside it. */
export const easedShare = ([from, until]: Run, ease: number, frame: number): number =>
  1 - smoothStep(0, ease + 1, Math.max(from - frame, frame - (until - 1), 0));
