import { Worker } from 'node:worker_threads';
import type { ExportFormat } from '@merry-shadow/core/formats/export-formats';
import type { TakeEdits } from '@merry-shadow/core/passes/take-edits';
import { SolveError, type SolvedFootage, type SolveOptions } from '@merry-shadow/core/solve/solve-take';

/** Work that would hold up the server: solving a take, or evaluating one and writing it as a file. */
export type SolveTask =
  | { solve: { observations: SolvedFootage; options: SolveOptions } }
  | { write: { solved: Uint8Array; edits: TakeEdits; format: ExportFormat; name: string } };

export type SolveAnswer = { bytes: Uint8Array } | { sentence: string };

/**
 * Does a task in a thread of its own, so that the server goes on answering.
 * @returns the solved take, or the file, as bytes.
 * @throws SolveError with a sentence when no motion can be made.
 */
export function solveInThread(task: SolveTask): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./solve-worker.mjs', import.meta.url), { workerData: task });
    worker.once('message', (answer: SolveAnswer) =>
      'bytes' in answer ? resolve(answer.bytes) : reject(new SolveError(answer.sentence)),
    );
    worker.once('error', reject);
    worker.once('exit', (code) => reject(new Error(`The solve ended with code ${code}.`)));
  });
}
