import { onUnmounted, ref, shallowRef, watch, type Ref } from 'vue';
import type { HeldPlant } from '@merry-shadow/core/edits/plants-of';
import type { ThinnedKeys } from '@merry-shadow/core/curves/thin-keys';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { KeyPose } from '@merry-shadow/core/key-poses/key-poses';
import { copyMotion, type Motion } from '@merry-shadow/core/motion/motion';
import type { Cycle } from '@merry-shadow/core/signal/find-cycle';
import type { Run } from '@merry-shadow/core/signal/runs';
import { setFrames } from '@merry-shadow/core/signal/slice-motion';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { Snag, SnagKind } from '@merry-shadow/core/snags/snag';
import type {
  ChangedFrames,
  EvaluationAnswer,
  EvaluationRequest,
  ThinRequest,
  TrialResult,
} from './evaluation-protocol';
import { startEvaluationWorker } from './evaluation-worker-address';

/** A take with what was laid over it, as it is looked at: in the take's own time. */
export interface EvaluatedTake {
  /** Another object whenever frames have changed; its columns stay the same arrays. */
  motion: Motion;
  /** The plants that hold: the person's, and those that were found. */
  plants: HeldPlant[];
  /** Length and rate of the motion that is exported, where the timing is changed. */
  exported: { frames: number; rate: number };
  /** Milliseconds that the evaluation took, and frames that it ran, summed over its steps. */
  took: number;
  framesRun: number;
}

export interface Evaluation {
  evaluated: Readonly<Ref<EvaluatedTake | null>>;
  /** Worst first; null while they are looked for. */
  snags: Readonly<Ref<readonly Snag[] | null>>;
  problem: Readonly<Ref<string>>;
  /** Shows a frame with edits that are not made yet, and right after it those about it; null shows again what is. */
  drag: (edits: TakeEdits | null, frame: number) => void;
  /** Tries on a copy what mends a snag, or all of a kind (null for all there are). @throws Error when it can't be evaluated. */
  tryMend: (edits: TakeEdits, what: Snag | { kind: SnagKind | null }) => Promise<TrialResult>;
  /** Thins what the motion is with edits to keys; null where it has no such target. @throws Error as above. */
  thin: (edits: TakeEdits, what: ThinRequest) => Promise<ThinnedKeys | null>;
  /** Seeks the part that can best be played over and over; null where the take is too short. @throws Error as above. */
  findCycle: (edits: TakeEdits) => Promise<Cycle | null>;
  /** Proposes the poses that carry the motion. @param off metres by which straight ways between them may be off. @param known poses that stay. @throws Error as above. */
  proposePoses: (edits: TakeEdits, off: number, known: readonly KeyPose[]) => Promise<KeyPose[]>;
}

/** Seconds before and after a frame that is dragged whose frames follow. */
const DRAGGED_ABOUT = 0.5;

/** Evaluates edits in a worker, and keeps the motion that it gives. @param edits in frames of the capture. @param seeksSnags whether snags are looked for, too. */
export function useEvaluation(solved: Ref<SolvedTake | null>, edits: Ref<TakeEdits>, seeksSnags = true): Evaluation {
  const worker = startEvaluationWorker();
  onUnmounted(() => worker.terminate());
  const evaluated = shallowRef<EvaluatedTake | null>(null);
  const snags = shallowRef<readonly Snag[] | null>(null);
  const problem = ref('');
  let motion: Motion | null = null;
  let newest = 0;
  let trials = 0;
  const trying = new Map<number, { done: (result: never) => void; failed: (error: Error) => void }>();
  const post = (request: EvaluationRequest): void => worker.postMessage(request);
  /** Asks for something besides what is shown. */
  const ask = <Result>(request: (trial: number) => EvaluationRequest): Promise<Result> =>
    new Promise<Result>((done, failed) => {
      const trial = ++trials;
      trying.set(trial, { done, failed });
      post(request(trial));
    });

  function put({ at, frames }: ChangedFrames): Motion | null {
    if (!motion) return null;
    setFrames(motion, frames, at);
    return (motion = { ...motion });
  }

  worker.onmessage = ({ data }: MessageEvent<EvaluationAnswer>) => {
    if ('trial' in data) {
      const { done, failed } = trying.get(data.trial) ?? {};
      trying.delete(data.trial);
      return 'result' in data ? done?.(data.result as never) : failed?.(new Error(data.problem));
    }
    // Frames count even when newer ones are on the way: the worker takes them as shown.
    if ('dragged' in data) {
      const shown = put(data.dragged);
      if (shown && evaluated.value) evaluated.value = { ...evaluated.value, motion: shown };
      return;
    }
    if ('changed' in data && motion) {
      const { changed, plants, exported, took, framesRun } = data;
      const shown = changed ? put(changed) : motion;
      if (shown) evaluated.value = { motion: shown, plants, exported, took, framesRun };
    }
    if (data.id !== newest) return;
    problem.value = 'problem' in data ? data.problem : '';
    if ('snags' in data) snags.value = data.snags;
  };

  const evaluate = (): void => {
    if (solved.value) post({ id: ++newest, edits: edits.value });
  };
  watch(edits, evaluate, { flush: 'sync' });
  watch(
    solved,
    (take) => {
      evaluated.value = null;
      snags.value = null;
      motion = take && copyMotion(take.motion);
      newest++;
      if (!take) return;
      post({ solved: take, seeksSnags });
      evaluate();
    },
    { immediate: true },
  );
  return {
    evaluated,
    snags,
    problem,
    tryMend: (next, what) => {
      const asked = plain(what);
      return ask((trial) =>
        'from' in asked ? { trial, edits: next, snag: asked } : { trial, edits: next, kind: asked.kind },
      );
    },
    thin: (next, what) => ask((trial) => ({ trial, edits: next, thin: plain(what) })),
    proposePoses: (next, off, known) => ask((trial) => ({ trial, edits: next, poses: plain({ off, known }) })),
    findCycle: (next) => ask((trial) => ({ trial, edits: next, cycle: true })),
    drag(next, frame) {
      if (!next || !motion) return evaluate();
      const far = Math.round(DRAGGED_ABOUT * motion.rate);
      const about: Run = [Math.max(0, frame - far), Math.min(motion.frames, frame + far + 1)];
      post({ id: ++newest, edits: next, dragged: { frame, about } });
    },
  };
}

/** Without Vue's proxies, which no worker takes. */
const plain = <Data>(data: Data): Data => JSON.parse(JSON.stringify(data)) as Data;
