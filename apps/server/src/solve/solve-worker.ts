import { parentPort, workerData } from 'node:worker_threads';
import { solvedFromBytes, solvedToBytes } from '@merry-shadow/contracts/motion-bytes';
import { writeExport } from '@merry-shadow/core/formats/write-export';
import { finishedMotion } from '@merry-shadow/core/passes/take-edits';
import { SolveError, solveTake } from '@merry-shadow/core/solve/solve-take';
import type { SolveAnswer, SolveTask } from './solve-thread';

/** Does one task and ends. */
async function work(task: SolveTask): Promise<Uint8Array> {
  if ('solve' in task) return solvedToBytes(solveTake(task.solve.observations, task.solve.options));
  const { solved, edits, format, name } = task.write;
  const body = await writeExport(format, finishedMotion(solvedFromBytes(solved), edits), name);
  return typeof body === 'string' ? new TextEncoder().encode(body) : body;
}

const answer = (message: SolveAnswer): void => parentPort?.postMessage(message);
try {
  answer({ bytes: await work(workerData as SolveTask) });
} catch (error) {
  if (!(error instanceof SolveError)) throw error;
  answer({ sentence: error.message });
}
