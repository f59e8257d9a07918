import type { HandCrop } from './hands/hand-crop';

/** How pictures are read. */
export interface ReadingRules {
  /** The exact rules of the networks' own pipeline, nothing else. */
  plain?: boolean;
  /** Looks at the mirror image of the body and of each hand, too: better marks for half the speed. */
  fine?: boolean;
  /** Another way to cut hands out, to learn from. */
  handCrop?: HandCrop;
}
