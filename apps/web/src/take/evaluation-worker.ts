import { nanoid } from 'nanoid';
import { thinKeys } from '@merry-shadow/core/curves/thin-keys';
import { TakeEvaluator } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { mendAll, openSnags, tryMend, withoutKeyPoses } from '@merry-shadow/core/edits/mend-snags';
import { proposeKeyPoses } from '@merry-shadow/core/key-poses/propose';
import type { Motion } from '@merry-shadow/core/motion/motion';
import { findCycle } from '@merry-shadow/core/signal/find-cycle';
import { joinRuns, type Run } from '@merry-shadow/core/signal/runs';
import { differingFrames, sliceMotion } from '@merry-shadow/core/signal/slice-motion';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { ChangedFrames, EvaluationAnswer, EvaluationRequest } from './evaluation-protocol';

type Wanted = Extract<EvaluationRequest, { id: number }>;
type Trial = Extract<EvaluationRequest, { trial: number }>;

/** The take that is open, with the motion that the page has. */
let open: {
  solved: SolvedTake;
  seeksSnags: boolean;
  evaluator: TakeEvaluator;
  shown: Motion;
  dragged: Run | null;
} | null = null;
/** The newest request; older ones are dropped. */
let wanted: Wanted | null = null;

self.onmessage = ({ data }: MessageEvent<EvaluationRequest>) => {
  if ('solved' in data) {
    const { solved, seeksSnags } = data;
    open = { solved, seeksSnags, evaluator: new TakeEvaluator(solved), shown: solved.motion, dragged: null };
    return;
  }
  if ('trial' in data) return tryOut(data);
  // Requests that came meanwhile are read first.
  if (!wanted) setTimeout(work, 0);
  wanted = data;
};

const tell = (message: EvaluationAnswer, changed?: ChangedFrames | null): void => {
  const { rotations, root, curves } = changed?.frames ?? {};
  const buffers = changed ? [rotations, root, ...(curves ?? []).map(({ values }) => values)] : [];
  postMessage(message, { transfer: buffers.flatMap((array) => (array ? [array.buffer as ArrayBuffer] : [])) });
};

/** A copy of some frames, which may be given away. */
function framesOf(motion: Motion, [from, until]: Run): ChangedFrames {
  const frames = sliceMotion(motion, from, until);
  return { at: from, frames: frames === motion ? structuredClone(motion) : frames };
}

function work(): void {
  const request = wanted;
  wanted = null;
  if (!open || !request) return;
  const { id, edits, dragged } = request;
  const { evaluator, solved, seeksSnags } = open;
  try {
    if (dragged !== undefined) {
      showDragged(request, [dragged.frame, dragged.frame + 1]);
      // The frames about it follow when nothing else waits.
      setTimeout(() => {
        if (!wanted) showDragged(request, dragged.about);
      }, 0);
      return;
    }
    const begin = performance.now();
    const exported = evaluator.exportLength(edits);
    const motion = evaluator.untimed(edits);
    const took = performance.now() - begin;
    const run = joinRuns(differingFrames(open.shown, motion), open.dragged);
    const changed = run && framesOf(motion, run);
    Object.assign(open, { shown: motion, dragged: null });
    const plants = evaluator.plants(edits);
    tell({ id, changed, plants, exported, took, framesRun: evaluator.framesRun }, changed);
    // Snags are looked for when nothing else waits.
    setTimeout(() => {
      if (seeksSnags && !wanted) tell({ id, snags: openSnags(evaluator, edits, solved).snags });
    }, 0);
  } catch (error) {
    tell({ id, problem: (error as Error).message });
  }
}

/** Shows frames as they are with what is being dragged. */
function showDragged({ id, edits }: Wanted, run: Run): void {
  if (!open) return;
  try {
    const changed = { at: run[0], frames: open.evaluator.framesIn(edits, run) };
    open.dragged = joinRuns(open.dragged, run);
    tell({ id, dragged: changed }, changed);
  } catch (error) {
    tell({ id, problem: (error as Error).message });
  }
}

/** Thins, seeks, proposes, or mends on a copy, and tells what came of it; the motion that the page has stays. */
function tryOut(request: Trial): void {
  if (!open) return;
  const { trial, edits } = request;
  const { evaluator, solved } = open;
  try {
    if ('thin' in request) {
      const { target, run, tolerance } = request.thin;
      return tell({ trial, result: thinKeys(evaluator.untimed(edits), target, run, tolerance) });
    }
    if ('cycle' in request) return tell({ trial, result: findCycle(evaluator.untimed(edits)) });
    if ('poses' in request) {
      const { off, known } = request.poses;
      return tell({ trial, result: proposeKeyPoses(evaluator.untimed(withoutKeyPoses(edits)), off, known) });
    }
    const before = openSnags(evaluator, edits, solved);
    const tried =
      'snag' in request
        ? tryMend(evaluator, edits, solved, request.snag, before.snags, newId)
        : mendAll(evaluator, edits, solved, newId, ({ kind }) => request.kind === null || kind === request.kind);
    const records = (tried?.edits.records ?? []).slice(edits.records.length);
    const motion = tried && evaluator.untimed(withoutKeyPoses(tried.edits));
    const run = motion && differingFrames(before.motion, motion);
    const changed = run && framesOf(motion, run);
    tell({ trial, result: { records, snags: tried?.snags ?? before.snags, changed } }, changed);
  } catch (error) {
    tell({ trial, problem: (error as Error).message });
  }
}

const newId = (): string => nanoid(10);
