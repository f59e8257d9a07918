import { Piscina } from 'piscina';
import { fileURLToPath } from 'node:url';
import type { ExportFormat } from '@merry-shadow/core/formats/export-formats';
import { ResultTooLongError } from '@merry-shadow/core/passes/result-size';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { SolveError, type SolvedFootage, type SolveOptions } from '@merry-shadow/core/solve/solve-take';

/** Work that would hold up the server: solving a take, or evaluating one and writing it as a file. */
export type SolveTask =
  | { solve: { observations: SolvedFootage; options: SolveOptions } }
  | { write: { solved: Uint8Array; edits: TakeEdits; format: ExportFormat; name: string } };

export type SolveAnswer = { bytes: Uint8Array } | { sentence: string; tooLong: boolean };

/** The most memory that one thread may take, MB: beyond it the thread ends, and not the server. */
const MOST_MEMORY = 4096;
const IDLE_MS = 20_000;

/** A few threads that solve and export; what finds none free waits for its turn. */
export class SolvePool {
  private readonly threads: Piscina<SolveTask, SolveAnswer>;

  constructor(threads = 2) {
    this.threads = new Piscina({
      filename: fileURLToPath(new URL('./solve-worker.mjs', import.meta.url)),
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: IDLE_MS,
      resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY },
    });
  }

  /** Tasks that wait for a thread. */
  get waiting(): number {
    return this.threads.queueSize;
  }

  /**
   * Does a task as soon as a thread is free.
   * @param signal breaks it off.
   * @returns the solved take, or the file, as bytes.
   * @throws SolveError with a sentence when no motion can be made, ResultTooLongError when a file would be enormous.
   */
  async run(task: SolveTask, signal?: AbortSignal): Promise<Uint8Array> {
    const answer = await this.threads.run(task, { signal }).catch((error: Error & { code?: string }) => {
      if (error.code !== 'ERR_WORKER_OUT_OF_MEMORY') throw error;
      throw new SolveError(`The take needs more than ${MOST_MEMORY / 1024} GB of memory. Cut it into shorter takes.`);
    });
    if ('bytes' in answer) return answer.bytes;
    throw answer.tooLong ? new ResultTooLongError(answer.sentence) : new SolveError(answer.sentence);
  }

  /** Ends all threads, also those at work. */
  async close(): Promise<void> {
    await this.threads.destroy();
  }
}
