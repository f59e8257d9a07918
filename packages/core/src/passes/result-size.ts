import type { MotionLength } from './pass';
import { passNamed } from './registry';
import type { PassStep } from './run-passes';

/** The most frames that passes may make of a take that has fewer: two and a half hours at 30 frames a second. */
export const MOST_FRAMES = 270_000;
/** Bytes of a frame of a body while it is evaluated: rotations of some 25 joints and a root, in single precision. */
const FRAME_BYTES = 420;

/** Passes that change the timing would make an enormous motion; the message is a sentence with its size. */
export class ResultTooLongError extends Error {
  override name = 'ResultTooLongError';
}

/** How many frames of which rate the steps that change the timing make of a motion. */
export function resultLength(motion: MotionLength, steps: readonly PassStep[]): MotionLength {
  return steps.reduce<MotionLength>(
    (length, step) => {
      const pass = passNamed(step.pass);
      if (!pass.length || step.muted || step.strength === 0) return length;
      return pass.length(length, pass.options.parse(step.options));
    },
    { frames: motion.frames, rate: motion.rate },
  );
}

/** @throws ResultTooLongError before anything is made, when the steps would make far more frames than there are. */
export function checkResultLength(motion: MotionLength, steps: readonly PassStep[]): void {
  let length: MotionLength = motion;
  for (const step of steps) {
    length = resultLength(length, [step]);
    if (length.frames <= Math.max(MOST_FRAMES, motion.frames)) continue;
    const size = Math.round((length.frames * FRAME_BYTES) / 1e6);
    throw new ResultTooLongError(
      `The passes would make ${length.frames} frames of ${motion.frames} (about ${size} MB); ${MOST_FRAMES} are the most. Take out a pass that slows the motion down, or lower the frame rate.`,
    );
  }
}
