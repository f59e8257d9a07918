import { get, set } from 'idb-keyval';
import { WorkHistory, type Step } from './work-history';
import type { HistoryStore } from './take-work';

/** Keeps the way back of a take in the browser's database, over leaving the screen and a reload. */
export function historyStore(takeId: string): HistoryStore {
  const name = `history of ${takeId}`;
  return {
    load: async () => {
      const kept = await get<{ past: Step[]; future: Step[] }>(name).catch(() => undefined);
      return new WorkHistory(kept?.past ?? [], kept?.future ?? []);
    },
    // A browser that keeps nothing: the way back ends with this window.
    save: ({ past, future }) => set(name, { past, future }).catch(() => undefined),
  };
}
