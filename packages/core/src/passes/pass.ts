import type { z } from 'zod';
import type { Motion } from '../motion/motion';

/** What is known of a take besides its motion. */
export interface PassContext {
  /** 1 for frames whose pose was carried over a gap. */
  bridged: Uint8Array | null;
}

export const NO_CONTEXT: PassContext = { bridged: null };

/** How long a motion is: frames, and frames a second. */
export interface MotionLength {
  frames: number;
  rate: number;
}

/**
 * A clean-up operation on a motion. One file for each; the registry lists them. Masks, range and
 * strength are handled around every pass, never inside.
 */
export interface Pass<Options> {
  /** Stored in documents; never changes. */
  readonly name: string;
  readonly title: string;
  readonly about: string;
  /** Options with defaults; `.meta({ title, unit, step })` tells the interface how to show each. */
  readonly options: z.ZodType<Options>;
  /** Changes the number of frames or their rate: comes after all others, and knows no range and no parts. */
  readonly timing?: boolean;
  /**
   * How many frames beside a changed frame change with it, at most. Left out, all of them may.
   * @param rate frames a second.
   */
  readonly reach?: (options: Options, rate: number) => number;
  /** Of a pass that changes the timing: how many frames of which rate it makes of so many. */
  readonly length?: (motion: MotionLength, options: Options) => MotionLength;
  /** Pure: same input, same output, the input is left alone. */
  readonly apply: (motion: Motion, options: Options, context: PassContext) => Motion;
}
