import type { Motion } from '../motion/motion';
import { joinRuns, type Run } from '../signal/runs';
import { sliceMotion } from '../signal/slice-motion';

/** A take that steps are made for. */
export interface SteppedTake {
  frames: number;
  /** Frames a second. */
  rate: number;
  /** 1 for frames whose pose was carried over a gap. */
  bridged: Uint8Array | null;
}

/** A step of the evaluation. It tells how far changes reach, so that only frames that may be different are evaluated again. */
export interface Step {
  /** Lasts over changes, so that the step's last result is found again. */
  id: string;
  /** All that the step is made from; equal keys do the same. */
  key: string;
  /** Frames that it may change; null for none. All others are as they come in. */
  frames: Run | null;
  /** Which frames of its input it looks at for some frames of its result. */
  needs: (wanted: Run) => Run;
  /** Which frames of its result may be different when some frames of its input are. */
  affects: (changed: Run) => Run;
  /** Frames whose result may be different from that of the same step as it was before. */
  changedFrom: (before: Step) => Run | null;
  /**
   * Evaluates some frames.
   * @param input a part of the motion that holds all that `needs` tells. @param at its first frame.
   * @param wanted frames of the take. @returns these frames alone.
   */
  run: (input: Motion, at: number, wanted: Run) => Motion;
}

/** A step in which each frame is told by that frame alone. @param own frames that it may change. @param apply does it to a part of the motion that begins with a frame of the take. */
export const perFrameStep = (
  record: { id: string },
  own: Run | null,
  apply: (input: Motion, at: number) => Motion,
): Step => ({
  id: record.id,
  key: JSON.stringify(record),
  frames: own,
  needs: (wanted) => wanted,
  affects: (changed) => changed,
  changedFrom: (before) => joinRuns(own, before.frames),
  run: (input, at, wanted) => sliceMotion(apply(input, at), wanted[0] - at, wanted[1] - at),
});
