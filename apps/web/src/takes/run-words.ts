import type { RunView } from '@merry-shadow/contracts/take';
import { seconds } from '../shell/words';

/** What a run is doing, in one line. */
export function runWords(run: RunView): string {
  switch (run.state) {
    case 'waiting':
      return run.problem ?? 'Waits for its turn';
    case 'running': {
      if (run.stage === 'people') return 'Telling people apart';
      if (run.stage === 'motion') return 'Making the motion';
      const left = run.framesPerSecond ? (run.frames - run.doneFrames) / run.framesPerSecond : null;
      const speed = run.framesPerSecond ? ` · ${run.framesPerSecond.toFixed(0)} frames/s` : '';
      return `${run.doneFrames} of ${run.frames} frames${speed}${left === null ? '' : ` · ${seconds(left)} left`}`;
    }
    case 'done':
      return 'Tracked';
    case 'cancelled':
      return 'Cancelled';
    case 'failed':
      return run.problem ?? 'Failed';
  }
}

/** The state of a run without figures that change all the time. */
export const stateWords = (run: RunView): string => (run.state === 'running' ? 'Is being tracked' : runWords(run));

export function runPercent(run: RunView): number {
  return run.frames > 0 ? Math.min(100, Math.round((run.doneFrames / run.frames) * 100)) : 0;
}

export function isOpen(run: RunView | null): boolean {
  return run !== null && (run.state === 'waiting' || run.state === 'running');
}
