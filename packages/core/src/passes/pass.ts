import type { z } from 'zod';
import type { Motion } from '../motion/motion';

/**
 * A clean-up operation on a motion. One file for each; the registry lists them. Masks, range and
 * strength are handled around every pass, never inside.
 */
export interface Pass<Options> {
  /** Stored in documents; never changes. */
  readonly name: string;
  readonly title: string;
  readonly about: string;
  /** Options with defaults; `.meta({ title, unit })` tells the interface how to show each. */
  readonly options: z.ZodType<Options>;
  /** Pure: same input, same output, the input is left alone. */
  readonly apply: (motion: Motion, options: Options) => Motion;
}
