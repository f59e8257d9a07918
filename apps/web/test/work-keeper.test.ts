import { NO_EDITS } from '@merry-shadow/core/edits/take-edits';
import { EditRecord } from '@merry-shadow/core/edits/registry';
import type { Work } from '@merry-shadow/core/edits/work';
import { ChangedElsewhereError, NeverTakenError } from '../src/api/store-errors';
import type { KeepState } from '../src/stores/saving';
import { WorkKeeper, type KnownWork } from '../src/take/work-keeper';

const work = (...lifts: number[]): Work => ({
  fields: { name: 'Signals' },
  edits: {
    ...NO_EDITS,
    records: lifts.map((lift, i) =>
      EditRecord.parse({ kind: 'pass', id: `p${i}`, pass: 'hip-height', options: { lift } }),
    ),
  },
});
const lifts = ({ edits }: Work): unknown[] => edits.records.map((record) => 'options' in record && record.options.lift);

/** A server that stores, and can be made to fail or to answer late. */
class PlayedServer {
  stored: KnownWork = { work: work(0), revision: 1 };
  labels: string[] = [];
  sent = 0;
  open = 0;
  fail: (() => Error | null) | null = null;
  late = 0;

  async send(wanted: Work, { revision }: KnownWork, label: string): Promise<number> {
    this.sent++;
    this.open++;
    expect(this.open).toBe(1);
    for (let n = 0; n < this.late; n++) await Promise.resolve();
    this.open--;
    const error = this.fail?.();
    if (error) throw error;
    if (revision !== this.stored.revision) throw new ChangedElsewhereError('changed');
    this.labels.push(label);
    this.stored = { work: wanted, revision: revision + 1 };
    return this.stored.revision;
  }
}

function open(server: PlayedServer, storage = new Map<string, string>(), choose: 'own' | 'theirs' = 'own') {
  const shown: Work[] = [];
  const states: KeepState[] = [];
  const asked: string[] = [];
  const keeper = new WorkKeeper({
    storage: {
      getItem: (name) => storage.get(name) ?? null,
      setItem: (name, value) => void storage.set(name, value),
      removeItem: (name) => void storage.delete(name),
    },
    name: 'take',
    send: (wanted, base, label) => server.send(wanted, base, label),
    fetch: async () => server.stored,
    changed: (now) => void shown.push(now),
    choose: async (conflicts) => (asked.push(...conflicts), choose),
    state: (state) => void states.push(state),
    wait: async () => undefined,
  });
  keeper.told(server.stored);
  const settled = async (): Promise<void> => {
    for (let n = 0; n < 400; n++) await Promise.resolve();
  };
  return { keeper, shown, states, asked, storage, settled };
}

describe('keeping work', () => {
  it('sends one request at a time, and the newest of many changes is what stays', async () => {
    const server = new PlayedServer();
    server.late = 5;
    const { keeper, settled, states, storage } = open(server);
    for (let n = 1; n <= 30; n++) {
      keeper.keep(work(n), 'lift');
      if (n % 7 === 0) await Promise.resolve();
    }
    await settled();
    expect(lifts(server.stored.work)).toEqual([30]);
    expect(server.sent).toBeLessThan(12);
    expect(states.at(-1)).toBe('saved');
    expect(storage.size).toBe(0);
    expect(server.labels.at(-1)).toBe('lift');
    expect(keeper.revision).toBe(server.stored.revision);
  });

  it('lets one wait until the server has all', async () => {
    const server = new PlayedServer();
    server.late = 9;
    const { keeper } = open(server);
    await keeper.settled();
    keeper.keep(work(3), 'lift');
    await keeper.settled();
    expect(lifts(server.stored.work)).toEqual([3]);
  });

  it('tries again what failed, and a poll meanwhile replaces nothing', async () => {
    const server = new PlayedServer();
    let left = 3;
    const { keeper, settled, shown, states } = open(server);
    server.fail = () => (left-- > 0 ? new Error('The server does not answer.') : null);
    keeper.keep(work(5), 'lift');
    keeper.told({ work: work(0), revision: 1 });
    keeper.told({ work: work(9), revision: 7 });
    await settled();
    expect(shown.map(lifts)).toEqual([[0]]);
    expect(states).toContain('unsaved');
    expect(states.at(-1)).toBe('saved');
    expect(lifts(server.stored.work)).toEqual([5]);
  });

  it('keeps over a reload what could not be stored', async () => {
    const server = new PlayedServer();
    const storage = new Map<string, string>();
    server.fail = () => new NeverTakenError('held up');
    const first = open(server, storage);
    first.keeper.keep(work(6), 'lift');
    await first.settled();
    expect(first.states.at(-1)).toBe('refused');
    expect(storage.size).toBe(1);
    server.fail = null;
    const second = open(server, storage);
    expect(second.shown.map(lifts)).toEqual([[6]]);
    await second.settled();
    expect(lifts(server.stored.work)).toEqual([6]);
    expect(storage.size).toBe(0);
  });

  it('takes back a change of which the answer was lost in a reload', async () => {
    const server = new PlayedServer();
    const storage = new Map<string, string>();
    const first = open(server, storage);
    // The server stores it, but the page is gone before it hears of that.
    let left = '';
    server.fail = () => {
      left = storage.get('take') ?? '';
      server.stored = { work: work(6), revision: 2 };
      return new NeverTakenError('gone');
    };
    first.keeper.keep(work(6), 'lift');
    await first.settled();
    server.fail = null;
    storage.set('take', left);
    const second = open(server, storage);
    second.keeper.keep(work(0), 'undo');
    await second.settled();
    expect(lifts(server.stored.work)).toEqual([0]);
    expect(lifts(second.shown.at(-1) as Work)).toEqual([6]);
    expect(storage.size).toBe(0);
  });

  it('leaves what another window keeps for itself, and what it can make nothing of', async () => {
    const server = new PlayedServer();
    const storage = new Map([['take', '{"work": {"fields": 3}, "base": null}']]);
    const first = open(server, storage);
    expect(first.shown.map(lifts)).toEqual([[0]]);
    first.keeper.keep(work(4), 'lift');
    const others = JSON.stringify({ work: work(8), label: 'lift', base: server.stored });
    storage.set('take', others);
    await first.settled();
    expect(lifts(server.stored.work)).toEqual([4]);
    expect(storage.get('take')).toBe(others);
  });

  it('brings changes of two windows together', async () => {
    const server = new PlayedServer();
    server.stored = { work: work(1, 2), revision: 4 };
    const [one, two] = [open(server), open(server)];
    one.keeper.keep(work(10, 2), 'lift');
    two.keeper.keep(work(1, 20), 'lift');
    await one.settled();
    expect(lifts(server.stored.work)).toEqual([10, 20]);
    expect(lifts(two.shown.at(-1) as Work)).toEqual([10, 20]);
    expect(two.asked).toEqual([]);
    one.keeper.told(server.stored);
    expect(lifts(one.shown.at(-1) as Work)).toEqual([10, 20]);
  });

  it.each([
    ['own', 20],
    ['theirs', 10],
  ] as const)('asks where both changed the same, and %s stand', async (whose, lift) => {
    const server = new PlayedServer();
    const [one, two] = [open(server), open(server, new Map(), whose)];
    one.keeper.keep(work(10), 'lift');
    await one.settled();
    two.keeper.keep(work(20), 'lift');
    await two.settled();
    expect(two.asked).toEqual(['the pass "Hip height"']);
    expect(lifts(server.stored.work)).toEqual([lift]);
    expect(two.states.at(-1)).toBe('saved');
  });
});
