import type { TrackPool } from '@merry-shadow/tracker/node/track-pool';
import type { Connection } from '../database/connect';
import type { Lock, Locks } from '../database/locks';
import type { DepthCameras } from '../devices/depth-cameras';
import type { Footage } from '../media/footage';
import type { Queue } from '../queue/queue';
import type { Settings } from '../settings';
import type { SolvePool } from '../solve/solve-pool';

/** What the routes work with. */
export interface AppParts {
  settings: Settings;
  connection: Connection;
  locks: Locks;
  queue: Queue;
  footage: Footage;
  depthCameras: DepthCameras;
  /** Looks for people in single frames. */
  scout: TrackPool;
  /** Solves and exports. */
  solver: SolvePool;
  /** Name of the folder for files that come in, and the lock that says that somebody alive uses it. */
  incoming: { name: string; lock: Lock };
}
