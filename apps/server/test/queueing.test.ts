import { Locks } from '../src/database/locks';
import * as room from '../src/media/room';
import { claimGroup } from '../src/queue/capture-group';
import { captureJob } from '../src/queue/capture-job';
import { adoptOrphans } from '../src/queue/orphans';
import { Shared } from '../src/solve/shared';
import { SolvePool } from '../src/solve/solve-pool';
import { ServerInProcess } from './in-process';
import { madeClip, pattern } from './made-clips';

jest.mock('../src/media/room', () => {
  const real = jest.requireActual<typeof room>('../src/media/room');
  return { ...real, needRoom: jest.fn(real.needRoom) };
});

/** Runs that wait, are cancelled, come in groups, or find no room; solves that several ask for, or nobody any more. */
let server: ServerInProcess;
let clipId = '';
beforeAll(async () => {
  server = await ServerInProcess.start();
  await server.upload('walk.mp4', madeClip('walk.mp4', pattern(2)));
  await server.runJobs();
  [{ id: clipId }] = (await server.production()).clips;
});
afterAll(() => server?.stop());

const waitingRun = async (i = 0): Promise<string> => {
  const settings = { hands: false, face: false, performer: { frame: 0, x: i, y: 0 } };
  const range = { fromFrame: 0, untilFrame: 20, settings };
  const { id } = (await server.call('POST', `/api/clips/${clipId}/takes`, range)).json() as { id: string };
  return ((await server.call('POST', `/api/takes/${id}/capture`)).json() as { id: string }).id;
};
const stateOf = async (id: string) =>
  (await server.connection.pool.query('select state, problem from runs where id = $1', [id])).rows[0] as {
    state: string;
    problem: string | null;
  };

it('a group of any number of performers takes one connection', async () => {
  const ids: string[] = [];
  for (let i = 0; i < 15; i++) ids.push(await waitingRun(i));
  const locks = new Locks(server.settings.database);
  const group = await claimGroup({ connection: server.connection, locks }, ids[0]);
  expect(group).toHaveLength(15);
  // The pool has room for work, and nobody else gets any of the runs.
  await server.connection.pool.query('select 1');
  expect(server.connection.pool.waitingCount).toBe(0);
  expect(await claimGroup(server.tools, ids[9])).toBeNull();
  const { rows } = await server.connection.pool.query<{ pid: number }>(
    "select distinct pid from pg_stat_activity where application_name = 'merry-shadow locks'",
  );
  expect(rows.length).toBeLessThanOrEqual(2);
  for (const member of group ?? []) await member.lock.release();
  const again = await claimGroup(server.tools, ids[9]);
  expect(again).toHaveLength(15);
  for (const member of again ?? []) await member.lock.release();
  await locks.close();
  server.jobs.length = 0;
  await server.connection.pool.query("update runs set state = 'cancelled'");
});

it('a run that is cancelled between being taken and being begun stays cancelled', async () => {
  const id = await waitingRun();
  jest.mocked(room.needRoom).mockImplementationOnce(async () => {
    await server.connection.pool.query("update runs set state = 'cancelled' where id = $1", [id]);
  });
  await captureJob(server.tools, id);
  expect((await stateOf(id)).state).toBe('cancelled');
  expect(await adoptOrphans(server.connection, server.queue)).toBe(0);
  server.jobs.length = 0;
});

it('a run that waits with nobody behind it is queued again, once', async () => {
  const id = await waitingRun();
  server.jobs.length = 0;
  const both = await Promise.all([1, 2].map(() => adoptOrphans(server.connection, server.queue)));
  expect(both.reduce((a, b) => a + b)).toBeGreaterThanOrEqual(1);
  expect(server.jobs[0]).toMatchObject({ name: 'capture', job: { runId: id } });
  server.jobs.length = 0;
  await server.connection.pool.query("update runs set state = 'cancelled'");
});

it('a capture that finds no room says so, stands still, and goes on by itself', async () => {
  const id = await waitingRun();
  server.jobs.length = 0;
  const usual = server.settings.room;
  Object.assign(server.settings, { room: 1e15 });
  await captureJob(server.tools, id);
  expect(await stateOf(id)).toMatchObject({ state: 'waiting', problem: expect.stringContaining('is full') });
  Object.assign(server.settings, { room: usual });
  expect(await adoptOrphans(server.connection, server.queue)).toBe(1);
  await server.runJobs();
  expect(await stateOf(id)).toEqual({ state: 'done', problem: null });
});

it('a worker that stops leaves its run open', async () => {
  const id = await waitingRun();
  server.jobs.length = 0;
  const stopping = new AbortController();
  stopping.abort(new Error('The worker stops.'));
  await captureJob({ ...server.tools, stopping: stopping.signal }, id);
  expect((await stateOf(id)).state).toBe('running');
  expect(await adoptOrphans(server.connection, server.queue)).toBe(1);
  server.jobs.length = 0;
  await server.connection.pool.query("update runs set state = 'cancelled'");
});

it('locks are lost together when their connection breaks, and can be taken anew', async () => {
  const locks = new Locks(server.settings.database);
  const one = await locks.take('run', 'a');
  const two = await locks.take('run', 'b');
  expect(await server.locks.take('run', 'a')).toBeNull();
  await server.connection.pool.query(
    "select pg_terminate_backend(pid) from pg_locks where locktype = 'advisory' and pid in (select pid from pg_stat_activity where application_name = 'merry-shadow locks') and objsubid = 1 and pid not in (select pid from pg_locks group by pid having count(*) filter (where locktype = 'advisory') < 2)",
  );
  for (let i = 0; i < 40 && !two?.lost.aborted; i++) await new Promise((resolve) => setTimeout(resolve, 25));
  expect([one?.lost.aborted, two?.lost.aborted]).toEqual([true, true]);
  await one?.release();
  const again = await locks.take('run', 'a');
  expect(again).not.toBeNull();
  expect(await locks.take('run', 'a')).toBeNull();
  await locks.close();
});

describe('work that is shared', () => {
  const pending = (): { promise: Promise<number>; finish: (value: number) => void } => {
    let finish: (value: number) => void = () => undefined;
    return { promise: new Promise<number>((resolve) => (finish = resolve)), finish };
  };

  it('is done once for all who ask', async () => {
    const shared = new Shared<number>();
    const work = pending();
    const begin = jest.fn(() => work.promise);
    const both = [shared.join('a', begin), shared.join('a', begin)];
    work.finish(7);
    expect(await Promise.all(both)).toEqual([7, 7]);
    expect(begin).toHaveBeenCalledTimes(1);
  });

  it('is broken off when the last one has gone, and begun anew for the next', async () => {
    const shared = new Shared<number>();
    const gone = [new AbortController(), new AbortController()];
    let unwanted: AbortSignal | undefined;
    const begin = jest.fn((signal: AbortSignal) => ((unwanted = signal), pending().promise));
    const waits = gone.map(({ signal }) => shared.join('a', begin, signal).catch(() => 'gone'));
    gone[0].abort();
    expect(await waits[0]).toBe('gone');
    expect(unwanted?.aborted).toBe(false);
    gone[1].abort();
    expect(await waits[1]).toBe('gone');
    expect(unwanted?.aborted).toBe(true);
    expect(await shared.join('a', async () => 3)).toBe(3);
  });
});

it('the threads that solve are few, and one is freed at once when nobody waits for it', async () => {
  const solver = new SolvePool(2);
  const gone = new AbortController();
  // An order that no thread can do fails alone.
  const bad = solver.run({ nothing: true } as never).catch((error: Error) => error.message);
  const waits = Array.from({ length: 6 }, () =>
    solver.run({ write: {} } as never, gone.signal).catch((error: Error) => error.name),
  );
  expect(solver.waiting).toBeGreaterThanOrEqual(4);
  gone.abort();
  expect(new Set(await Promise.all(waits))).toEqual(new Set(['AbortError']));
  expect(await bad).toMatch(/undefined/);
  await solver.close();
});
