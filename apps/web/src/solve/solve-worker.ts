import type { BodyObservations } from '@merry-shadow/core/observe/body';
import { solveTake, type SolvedTake, type SolveOptions } from '@merry-shadow/core/solve/solve-take';

/** Solves takes off the main thread. */
export interface SolveRequest {
  id: number;
  observations: BodyObservations;
  options: SolveOptions;
}
export type SolveAnswer = { id: number; solved: SolvedTake } | { id: number; problem: string };

self.onmessage = (event: MessageEvent<SolveRequest>) => {
  const { id, observations, options } = event.data;
  try {
    const solved = solveTake(observations, options);
    postMessage({ id, solved } satisfies SolveAnswer, {
      transfer: [solved.motion.rotations.buffer, solved.motion.root.buffer, solved.bridged.buffer],
    });
  } catch (error) {
    postMessage({ id, problem: (error as Error).message } satisfies SolveAnswer);
  }
};
