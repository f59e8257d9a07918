import { Worker } from 'node:worker_threads';
import type { BodyObservations } from '@merry-shadow/core/observe/body';
import { SolveError, type SolvedTake, type SolveOptions } from '@merry-shadow/core/solve/solve-take';

export interface SolveTask {
  observations: BodyObservations;
  options: SolveOptions;
}

/**
 * Solves a take in a thread of its own, so that the server goes on answering.
 * @throws SolveError with a sentence when no motion can be made.
 */
export function solveInThread(task: SolveTask): Promise<SolvedTake> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./solve-worker.mjs', import.meta.url), { workerData: task });
    worker.once('message', (answer: { solved: SolvedTake } | { sentence: string }) =>
      'solved' in answer ? resolve(answer.solved) : reject(new SolveError(answer.sentence)),
    );
    worker.once('error', reject);
    worker.once('exit', (code) => reject(new Error(`The solve ended with code ${code}.`)));
  });
}
