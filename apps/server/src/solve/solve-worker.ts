import { solvedFromBytes, solvedToBytes } from '@merry-shadow/contracts/motion-bytes';
import { ExportError, writeExport } from '@merry-shadow/core/formats/write-export';
import { ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { SolveError, solveTake } from '@merry-shadow/core/solve/solve-take';
import type { SolveAnswer, SolveTask } from './solve-pool';

/** Does one task in a thread of the pool. */
export async function doTask(task: SolveTask): Promise<SolveAnswer> {
  try {
    return { bytes: await work(task) };
  } catch (error) {
    if (error instanceof SolveError || error instanceof ExportError || error instanceof ResultTooLongError)
      return { sentence: error.message, tooLong: error instanceof ResultTooLongError };
    throw error;
  }
}

async function work(task: SolveTask): Promise<Uint8Array> {
  if ('solve' in task) return solvedToBytes(solveTake(task.solve.observations, task.solve.options));
  const { solved, edits, format, name } = task.write;
  const body = await writeExport(format, finishedMotion(solvedFromBytes(solved), edits), name);
  return typeof body === 'string' ? new TextEncoder().encode(body) : body;
}
