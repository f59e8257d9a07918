import type { BodyObservations } from '@merry-shadow/core/observe/body';
import type { SolvedTake, SolveOptions } from '@merry-shadow/core/solve/solve-take';
import type { SolveAnswer, SolveRequest } from './solve-worker';

/** The worker's life: one for each open take; only the newest request is answered. */
export class Solver {
  private readonly worker = new Worker(new URL('./solve-worker.ts', import.meta.url), { type: 'module' });
  private newest = 0;

  /** @returns null when a newer request has overtaken this one. @throws Error with a sentence. */
  solve(observations: BodyObservations, options: SolveOptions): Promise<SolvedTake | null> {
    const id = ++this.newest;
    return new Promise((resolve, reject) => {
      const listen = (event: MessageEvent<SolveAnswer>): void => {
        if (event.data.id !== id) return;
        this.worker.removeEventListener('message', listen);
        if (id !== this.newest) resolve(null);
        else if ('problem' in event.data) reject(new Error(event.data.problem));
        else resolve(event.data.solved);
      };
      this.worker.addEventListener('message', listen);
      this.worker.postMessage({ id, observations, options } satisfies SolveRequest);
    });
  }

  close(): void {
    this.worker.terminate();
  }
}
