import { historyStore, type HistoryPlaces } from '../src/take/history-store';
import { WorkHistory, type Step } from '../src/take/work-history';

const step = (label: string) =>
  ({ label, change: { fields: {}, records: {}, order: null, foundPlants: null } }) as unknown as Step;
const labels = ({ past, future }: WorkHistory) => [past.map(({ label }) => label), future.map(({ label }) => label)];
const history = (count: number) => new WorkHistory(Array.from({ length: count }, (_, i) => step(`step ${i}`)));

/** A browser whose database writes only when it is let. */
function browser(): HistoryPlaces & { write: () => void; fail: () => void; kept: Map<string, string> } {
  const kept = new Map<string, string>();
  const database = new Map<string, { past: readonly Step[]; future: readonly Step[] }>();
  const waiting: (() => void)[] = [];
  let fails = false;
  return {
    kept,
    storage: {
      getItem: (name) => kept.get(name) ?? null,
      setItem: (name, value) => void kept.set(name, value),
      removeItem: (name) => void kept.delete(name),
    },
    database: {
      get: async (name) => database.get(name),
      set: (name, value) =>
        fails
          ? Promise.reject(new Error('no room'))
          : new Promise((resolve) => waiting.push(() => resolve(void database.set(name, value)))),
    },
    write: () => waiting.splice(0).forEach((now) => now()),
    fail: () => (fails = true),
  };
}

test('what the database had not written before a reload comes back, and what it had, too', async () => {
  const places = browser();
  const first = historyStore('a', places).save(history(40));
  places.write();
  await first;
  expect(places.kept.size).toBe(0);
  void historyStore('a', places).save(history(42));
  const after = await historyStore('a', places).load();
  expect(after.past.map(({ label }) => label)).toEqual(history(42).past.map(({ label }) => label));
});

test('steps that were taken back are taken back after a reload', async () => {
  const places = browser();
  const done = historyStore('a', places).save(history(2));
  places.write();
  await done;
  void historyStore('a', places).save(new WorkHistory([step('step 0')], [step('step 1')]));
  expect(labels(await historyStore('a', places).load())).toEqual([['step 0'], ['step 1']]);
});

test('a database that keeps nothing leaves the newest steps, and another take has its own', async () => {
  const places = browser();
  places.fail();
  await historyStore('a', places).save(history(3));
  expect(labels(await historyStore('a', places).load())[0]).toEqual(['step 0', 'step 1', 'step 2']);
  expect(labels(await historyStore('b', places).load())).toEqual([[], []]);
});

test('a later step that is written first does not lose the one that is written after it', async () => {
  const places = browser();
  const earlier = historyStore('a', places).save(history(1));
  const later = historyStore('a', places).save(history(2));
  places.write();
  await Promise.all([earlier, later]);
  expect(labels(await historyStore('a', places).load())[0]).toEqual(['step 0', 'step 1']);
});
