import { plantsFrom, plantsWithin } from '@merry-shadow/core/ground/plants';
import { TakeEvaluator } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import { findSnags } from '@merry-shadow/core/snags/registry';
import type { EditAnswer, EditRequest } from './edit-protocol';

/** Evaluates the edits of one take off the main thread, step by step: what did not change is kept. */
let open: { solved: SolvedTake; evaluator: TakeEvaluator } | null = null;

self.onmessage = ({ data }: MessageEvent<EditRequest>) => {
  if ('solved' in data) {
    open = { solved: data.solved, evaluator: new TakeEvaluator(data.solved) };
    return;
  }
  if (!open) return;
  const { id, edits } = data;
  const answer = (message: EditAnswer): void => postMessage(message);
  try {
    const begin = performance.now();
    const { frames, rate } = open.evaluator.evaluate(edits);
    const took = performance.now() - begin;
    const motion = open.evaluator.untimed;
    const plants = edits.plants ?? plantsFrom(open.solved.contacts);
    const held = plantsWithin(plants, open.solved.motion.frames);
    const snags = findSnags({ motion, plants: held, bridged: open.solved.bridged });
    answer({ id, evaluated: { motion, plants, snags, exported: { frames, rate }, took } });
  } catch (error) {
    answer({ id, problem: (error as Error).message });
  }
};
