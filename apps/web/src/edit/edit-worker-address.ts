/** Starts the worker that evaluates edits. A file of its own, because only a bundler knows where it lies. */
export const startEditWorker = (): Worker =>
  new Worker(new URL('./edit-worker.ts', import.meta.url), { type: 'module' });
