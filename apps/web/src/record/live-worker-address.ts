/** Starts the worker that tracks camera frames. A file of its own, because only a bundler knows where it lies. */
export const startLiveWorker = (): Worker => new Worker(new URL('./live-worker.ts', import.meta.url));
