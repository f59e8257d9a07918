import { PassStep } from '@merry-shadow/core/passes/run-passes';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import { ChangedElsewhereError, NeverTakenError } from '../src/api/store-errors';
import { EditKeeper, type KeepState } from '../src/edit/edit-keeper';

const edits = (...lifts: number[]): TakeEdits => ({
  passes: lifts.map((lift, i) => PassStep.parse({ id: `p${i}`, pass: 'hip-height', options: { lift } })),
  plants: null,
});
const lifts = ({ passes }: TakeEdits): unknown[] => passes.map(({ options }) => options.lift);

/** A server that stores, and can be made to fail or to answer late. */
class PlayedServer {
  stored = { edits: edits(0), revision: 1 };
  sent = 0;
  open = 0;
  fail: (() => Error | null) | null = null;
  late = 0;

  async send(wanted: TakeEdits, basedOn: number): Promise<number> {
    this.sent++;
    this.open++;
    expect(this.open).toBe(1);
    for (let n = 0; n < this.late; n++) await Promise.resolve();
    this.open--;
    const error = this.fail?.();
    if (error) throw error;
    if (basedOn !== this.stored.revision) throw new ChangedElsewhereError('changed');
    this.stored = { edits: wanted, revision: basedOn + 1 };
    return this.stored.revision;
  }
}

function open(server: PlayedServer, storage = new Map<string, string>(), choose: 'own' | 'theirs' = 'own') {
  const shown: TakeEdits[] = [];
  const states: KeepState[] = [];
  const asked: string[] = [];
  const keeper = new EditKeeper({
    storage: {
      getItem: (name) => storage.get(name) ?? null,
      setItem: (name, value) => void storage.set(name, value),
      removeItem: (name) => void storage.delete(name),
    },
    name: 'take',
    send: (wanted, basedOn) => server.send(wanted, basedOn),
    fetch: async () => server.stored,
    found: () => [],
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

describe('keeping edits', () => {
  it('sends one request at a time, and the newest of many changes is what stays', async () => {
    const server = new PlayedServer();
    server.late = 5;
    const { keeper, settled, states, storage } = open(server);
    for (let n = 1; n <= 30; n++) {
      keeper.keep(edits(n));
      if (n % 7 === 0) await Promise.resolve();
    }
    await settled();
    expect(lifts(server.stored.edits)).toEqual([30]);
    expect(server.sent).toBeLessThan(12);
    expect(states.at(-1)).toBe('saved');
    expect(storage.size).toBe(0);
  });

  it('tries again what failed, and a poll meanwhile replaces nothing', async () => {
    const server = new PlayedServer();
    let left = 3;
    const { keeper, settled, shown, states } = open(server);
    server.fail = () => (left-- > 0 ? new Error('The server does not answer.') : null);
    keeper.keep(edits(5));
    keeper.told({ edits: edits(0), revision: 1 });
    keeper.told({ edits: edits(9), revision: 7 });
    await settled();
    expect(shown.map(lifts)).toEqual([[0]]);
    expect(states).toContain('unsaved');
    expect(states.at(-1)).toBe('saved');
    expect(lifts(server.stored.edits)).toEqual([5]);
  });

  it('keeps over a reload what could not be stored', async () => {
    const server = new PlayedServer();
    const storage = new Map<string, string>();
    server.fail = () => new NeverTakenError('held up');
    const first = open(server, storage);
    first.keeper.keep(edits(6));
    await first.settled();
    expect(first.states.at(-1)).toBe('refused');
    expect(storage.size).toBe(1);
    server.fail = null;
    const second = open(server, storage);
    expect(second.shown.map(lifts)).toEqual([[6]]);
    await second.settled();
    expect(lifts(server.stored.edits)).toEqual([6]);
    expect(storage.size).toBe(0);
  });

  it('leaves what another window keeps for itself, and what it can make nothing of', async () => {
    const server = new PlayedServer();
    const storage = new Map([['take', '{"edits": {"passes": [{"pass": 3}]}, "base": null}']]);
    const first = open(server, storage);
    expect(first.shown.map(lifts)).toEqual([[0]]);
    first.keeper.keep(edits(4));
    const others = JSON.stringify({ edits: edits(8), base: server.stored });
    storage.set('take', others);
    await first.settled();
    expect(lifts(server.stored.edits)).toEqual([4]);
    expect(storage.get('take')).toBe(others);
  });

  it('brings changes of two windows together', async () => {
    const server = new PlayedServer();
    server.stored = { edits: edits(1, 2), revision: 4 };
    const [one, two] = [open(server), open(server)];
    one.keeper.keep(edits(10, 2));
    two.keeper.keep(edits(1, 20));
    await one.settled();
    expect(lifts(server.stored.edits)).toEqual([10, 20]);
    expect(lifts(two.shown.at(-1) as TakeEdits)).toEqual([10, 20]);
    expect(two.asked).toEqual([]);
    one.keeper.told(server.stored);
    expect(lifts(one.shown.at(-1) as TakeEdits)).toEqual([10, 20]);
  });

  it.each([
    ['own', 20],
    ['theirs', 10],
  ] as const)('asks where both changed the same, and %s stand', async (whose, lift) => {
    const server = new PlayedServer();
    const [one, two] = [open(server), open(server, new Map(), whose)];
    one.keeper.keep(edits(10));
    await one.settled();
    two.keeper.keep(edits(20));
    await two.settled();
    expect(two.asked).toEqual(['the pass "hip-height"']);
    expect(lifts(server.stored.edits)).toEqual([lift]);
    expect(two.states.at(-1)).toBe('saved');
  });
});
