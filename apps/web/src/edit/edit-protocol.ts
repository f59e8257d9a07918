import type { Plant } from '@merry-shadow/core/ground/plants';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { Snag } from '@merry-shadow/core/snags/snag';

/** A take with what was laid over it, as it is looked at: in the take's own time. */
export interface EvaluatedTake {
  motion: Motion;
  /** The plants that hold: the person's, or those that were found. */
  plants: Plant[];
  /** Worst first. */
  snags: Snag[];
  /** Length and rate of the motion that is exported, where passes change them. */
  exported: { frames: number; rate: number };
  /** Milliseconds that the evaluation took. */
  took: number;
}

export type EditRequest = { solved: SolvedTake } | { id: number; edits: TakeEdits };
export type EditAnswer = { id: number; evaluated: EvaluatedTake } | { id: number; problem: string };
