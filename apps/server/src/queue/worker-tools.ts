import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import type { Connection } from '../database/connect';
import type { Locks } from '../database/locks';
import type { Settings } from '../settings';
import type { SolvePool } from '../solve/solve-pool';
import type { Queue } from './queue';

/** What a worker works with. */
export interface WorkerTools {
  settings: Settings;
  connection: Connection;
  locks: Locks;
  queue: Queue;
  /** Threads that track. */
  pool: TrackPool;
  /** Threads that solve. */
  solver: SolvePool;
  /** Aborted when the worker stops: what is under way stays open and is taken up by another one. */
  stopping: AbortSignal;
  complain: (error: Error) => void;
}
