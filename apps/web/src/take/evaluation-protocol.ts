import type { HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { ThinnedKeys, ThinTolerance } from '@merry-shadow/core/curves/thin-keys';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { KeyPose } from '@merry-shadow/core/key-poses/key-poses';
import type { Motion } from '@merry-shadow/core/motion/motion';
import type { EditRecord } from '@merry-shadow/core/edits/registry';
import type { Cycle } from '@merry-shadow/core/signal/find-cycle';
import type { Run } from '@merry-shadow/core/signal/runs';
import type { Snag, SnagKind } from '@merry-shadow/core/snags/snag';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';

/** What the page asks its worker. A request with edits counts until the next one comes. */
export type EvaluationRequest =
  /** @param seeksSnags whether snags are looked for when nothing else waits. */
  | { solved: SolvedTake; seeksSnags: boolean }
  /** @param dragged while something is being dragged: a frame that is evaluated alone at once, and the frames about it that follow. */
  | { id: number; edits: TakeEdits; dragged?: { frame: number; about: Run } }
  /** What may mend a snag is tried on a copy. */
  | { trial: number; edits: TakeEdits; snag: Snag }
  /** All snags of a kind, or all that there are, are mended one after the other. */
  | { trial: number; edits: TakeEdits; kind: SnagKind | null }
  /** What the motion is with edits is thinned to keys. */
  | { trial: number; edits: TakeEdits; thin: ThinRequest }
  /** The part of it is sought that can best be played over and over. */
  | { trial: number; edits: TakeEdits; cycle: true }
  /** The poses are proposed that carry it. @param off metres by which straight ways between them may be off. @param known poses that stay. */
  | { trial: number; edits: TakeEdits; poses: { off: number; known: readonly KeyPose[] } };

/** Which target is thinned, in which frames, and how closely. */
export interface ThinRequest {
  target: string;
  run: Run;
  tolerance: ThinTolerance;
}

/** What became of a trial: the records that mend, and the snags that are left with them. */
export interface TrialResult {
  /** Empty where nothing was found that makes it better. */
  records: EditRecord[];
  snags: Snag[];
  /** Frames of the motion that are different with them; null where there are none. */
  changed: ChangedFrames | null;
}

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
  /** Some frames alone, while something is being dragged. */
  | { id: number; dragged: ChangedFrames }
  | { id: number; snags: Snag[] }
  | { id: number; problem: string }
  | { trial: number; result: TrialResult | ThinnedKeys | Cycle | KeyPose[] | null }
  | { trial: number; problem: string };
