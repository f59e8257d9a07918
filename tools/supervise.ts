import type { ChildProcess } from 'node:child_process';
import { stopProgram } from './processes';

/** A part of the product that is kept running. */
export interface Supervised {
  name: string;
  /** The running process; null while there is none. */
  current: () => ChildProcess | null;
  /** How often it was started again. */
  restarts: () => number;
  stop: () => Promise<void>;
}

/** Waits before a part that ended is started again, milliseconds; longer each time while it keeps ending at once. */
const FIRST_WAIT = 500;
const LONGEST_WAIT = 10_000;
/** Who has lived so long was well. */
const WELL_MS = 30_000;

/**
 * Keeps a part running: starts it again whenever it ends without having been asked to (killed, out of memory,
 * no room on the disk), until it is stopped.
 * @param name for messages.
 * @param first the part, running.
 * @param start starts it anew.
 * @param end how it is asked to end.
 */
export function supervise(
  name: string,
  first: ChildProcess,
  start: () => Promise<ChildProcess>,
  end: (child: ChildProcess) => Promise<void> = stopProgram,
): Supervised {
  let child: ChildProcess | null = null;
  let stopping = false;
  let restarts = 0;
  let wait = FIRST_WAIT;
  let timer: NodeJS.Timeout | undefined;
  let starting: Promise<void> = Promise.resolve();

  const watch = (started: ChildProcess): void => {
    child = started;
    const since = Date.now();
    const ended = (): void => {
      child = null;
      if (stopping) return;
      wait = Date.now() - since > WELL_MS ? FIRST_WAIT : Math.min(LONGEST_WAIT, wait * 2);
      restarts++;
      process.stderr.write(`The ${name} ended; it is started again.\n`);
      again();
    };
    if (started.exitCode !== null || started.signalCode !== null) ended();
    else started.once('exit', ended);
  };
  const again = (): void => {
    timer = setTimeout(() => {
      starting = start().then(
        async (started) => (stopping ? end(started) : watch(started)),
        (error: Error) => {
          if (stopping) return;
          process.stderr.write(`${error.message}\n`);
          wait = Math.min(LONGEST_WAIT, wait * 2);
          again();
        },
      );
    }, wait);
  };
  watch(first);
  return {
    name,
    current: () => child,
    restarts: () => restarts,
    async stop() {
      stopping = true;
      clearTimeout(timer);
      await starting;
      if (child) await end(child);
    },
  };
}
