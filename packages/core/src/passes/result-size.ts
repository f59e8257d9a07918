import type { MotionLength } from './pass';
import { passNamed } from './registry';

/** The most frames that passes may make of a take that has fewer: two and a half hours at 30 frames a second. */
export const MOST_FRAMES = 270_000;
/** Bytes of a frame of a body while it is evaluated: rotations of some 25 joints and a root, in single precision. */
const FRAME_BYTES = 420;

/** A pass that changes the timing, with its options. */
export interface TimedStep {
  pass: string;
  options: Record<string, unknown>;
}

/** Passes that change the timing would make an enormous motion; the message is a sentence with its size. */
export class ResultTooLongError extends Error {
  override name = 'ResultTooLongError';
}

/**
 * Tells how long a motion becomes before anything is made of it.
 * @param steps the passes that change the timing, in their order.
 * @throws ResultTooLongError when they would make far more frames than there are.
 */
export function checkResultLength(motion: MotionLength, steps: readonly TimedStep[]): MotionLength {
  let length = motion;
  for (const step of steps) {
    const pass = passNamed(step.pass);
    if (!pass.length) continue;
    length = pass.length(length, pass.options.parse(step.options));
    if (length.frames <= Math.max(MOST_FRAMES, motion.frames)) continue;
    const size = Math.round((length.frames * FRAME_BYTES) / 1e6);
    throw new ResultTooLongError(
      `The passes would make ${length.frames} frames of ${motion.frames} (about ${size} MB); ${MOST_FRAMES} are the most. Take out a pass that slows the motion down, or lower the frame rate.`,
    );
  }
  return length;
}
