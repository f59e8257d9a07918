import { get, set } from 'idb-keyval';
import { WorkHistory, type Step } from './work-history';
import type { HistoryStore } from './take-work';

interface Kept {
  past: readonly Step[];
  future: readonly Step[];
}

/** The newest steps, kept at once: the database is told at the same moment, but a reload may come before it has written. */
interface Newest extends Kept {
  /** How many steps lie before these. */
  before: number;
}

/** Steps on either side that are kept at once; what lies farther back has long been written. */
const NEWEST = 30;

export interface HistoryPlaces {
  /** Large and slow to be sure of. */
  database: { get: (name: string) => Promise<Kept | undefined>; set: (name: string, kept: Kept) => Promise<void> };
  /** Small and sure. */
  storage: Pick<Storage, 'getItem' | 'setItem' | 'removeItem'>;
}

/** Keeps the way back of a take in the browser, over leaving the screen, a reload and a crash. */
export function historyStore(
  takeId: string,
  { database, storage }: HistoryPlaces = { database: { get, set }, storage: localStorage },
): HistoryStore {
  const name = `history of ${takeId}`;
  const newestName = `merry-shadow.newest-${name}`;
  return {
    load: async () => {
      const newest = newestSteps(storage, newestName);
      const kept = await database.get(name).catch(() => undefined);
      if (!newest) return new WorkHistory(kept?.past ?? [], kept?.future ?? []);
      return new WorkHistory([...(kept?.past.slice(0, newest.before) ?? []), ...newest.past], newest.future);
    },
    save: async ({ past, future }) => {
      const newest: Newest = {
        before: Math.max(0, past.length - NEWEST),
        past: past.slice(-NEWEST),
        future: future.slice(0, NEWEST),
      };
      const text = JSON.stringify(newest);
      try {
        storage.setItem(newestName, text);
      } catch {
        // A full storage: what an older step left there must not be taken for the newest.
        storage.removeItem(newestName);
      }
      try {
        await database.set(name, { past, future });
        if (storage.getItem(newestName) === text) storage.removeItem(newestName);
      } catch {
        // A browser that keeps nothing in a database: the newest steps stay in the storage.
      }
    },
  };
}

function newestSteps(storage: HistoryPlaces['storage'], name: string): Newest | null {
  try {
    return JSON.parse(storage.getItem(name) ?? 'null') as Newest | null;
  } catch {
    return null;
  }
}
