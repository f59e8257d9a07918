/** Starts the worker that evaluates edits. A file of its own, because only a bundler knows where it lies. */
export const startEvaluationWorker = (): Worker =>
  new Worker(new URL('./evaluation-worker.ts', import.meta.url), { type: 'module' });
