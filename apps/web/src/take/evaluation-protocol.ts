import type { HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { Snag } from '@merry-shadow/core/snags/snag';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';

/** What the page asks its worker. A request with edits counts until the next one comes. */
export type EvaluationRequest =
  | { solved: SolvedTake }
  /** @param dragged a frame that alone is evaluated, while something is being dragged. */
  | { id: number; edits: TakeEdits; dragged?: number };

/** Frames of a motion that are different now. */
export interface ChangedFrames {
  at: number;
  frames: Motion;
}

export type EvaluationAnswer =
  | {
      id: number;
      /** null where nothing is different. */
      changed: ChangedFrames | null;
      plants: HeldPlant[];
      exported: { frames: number; rate: number };
      /** Milliseconds that the evaluation took, and frames that it ran, summed over its steps. */
      took: number;
      framesRun: number;
    }
  /** A single frame, while something is being dragged. */
  | { id: number; dragged: ChangedFrames }
  | { id: number; snags: Snag[] }
  | { id: number; problem: string };
