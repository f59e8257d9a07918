import { parentPort, workerData } from 'node:worker_threads';
import { SolveError, solveTake } from '@merry-shadow/core/solve/solve-take';
import type { SolveTask } from './solve-thread';

/** Solves one take and ends. */
const { observations, options } = workerData as SolveTask;
try {
  parentPort?.postMessage({ solved: solveTake(observations, options) });
} catch (error) {
  if (!(error instanceof SolveError)) throw error;
  parentPort?.postMessage({ sentence: error.message });
}
