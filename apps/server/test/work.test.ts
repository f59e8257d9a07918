import type { ProductionName, ServerEvent } from '@merry-shadow/contracts/production';
import type { RevisionView } from '@merry-shadow/contracts/take';
import { ServerInProcess } from './in-process';
import { madeClip, pattern } from './made-clips';

/** What a person does to a take over time, productions, and what the server tells by itself. */
let server: ServerInProcess;
let takeId = '';
let address = '';
beforeAll(async () => {
  server = await ServerInProcess.start();
  address = await server.listen();
  await server.upload('walk.mp4', madeClip('walk.mp4', pattern(4)));
  await server.runJobs();
  takeId = (await server.production()).takes[0].id;
});
afterAll(() => server?.stop());

const patch = (body: object) => server.call('PATCH', `/api/takes/${takeId}`, body);
const revisions = async (): Promise<RevisionView[]> =>
  (await server.call('GET', `/api/takes/${takeId}/revisions`)).json();
const at = async (revision: number) => (await server.call('GET', `/api/takes/${takeId}/revisions/${revision}`)).json();
const lift = (cm: number) => ({ kind: 'pass', id: 'h', pass: 'hip-height', options: { lift: cm } });

describe('revisions', () => {
  it('keep every state that the work ever had', async () => {
    const first = await at(0);
    await patch({ name: 'Signals', label: 'Rename' });
    await patch({ settings: { height: 1.7 } });
    // More than lie between two stored whole states.
    for (let i = 1; i <= 110; i++) await patch({ edits: { records: [lift(i / 2)] }, label: `Lift ${i}` });
    const list = await revisions();
    expect(list).toHaveLength(112);
    expect(list[0]).toMatchObject({ revision: 112, label: 'Lift 110', version: null });
    expect(await at(0)).toEqual(first);
    expect(await at(1)).toMatchObject({ name: 'Signals', settings: { height: null } });
    for (const i of [1, 47, 48, 49, 97, 98, 110])
      expect(await at(2 + i)).toMatchObject({
        name: 'Signals',
        settings: { height: 1.7 },
        edits: { records: [{ options: { lift: i / 2 } }] },
      });
  });

  it('can be named, and named ones are never left out of the list', async () => {
    const name = (revision: number, version: string | null) =>
      server.call('PUT', `/api/takes/${takeId}/revisions/${revision}/version`, { version });
    expect((await name(3, 'Before the lift')).statusCode).toBe(204);
    for (let i = 0; i < 95; i++) await patch({ settings: { tilt: i % 2 } });
    const list = await revisions();
    expect(list).toHaveLength(201);
    expect(list.at(-1)).toMatchObject({ revision: 3, version: 'Before the lift' });
    await name(3, null);
    expect(await revisions()).toHaveLength(200);
    expect((await name(3, ' ')).statusCode).toBe(400);
    expect((await name(9999, 'x')).json().error.code).toBe('NO_REVISION');
    expect((await server.call('GET', `/api/takes/${takeId}/revisions/9999`)).statusCode).toBe(404);
  });
});

describe('productions', () => {
  const make = async (name: string): Promise<ProductionName> =>
    (await server.call('POST', '/api/productions', { name })).json();
  const change = (id: string, body: object) => server.call('PATCH', `/api/productions/${id}`, body);

  it('each hold their own clips and takes', async () => {
    const storm = await make('Storm Watch');
    await server.upload('storm.mp4', madeClip('storm.mp4', pattern(1)), `?production=${storm.id}`);
    await server.runJobs();
    const view = (await server.call('GET', `/api/production?id=${storm.id}`)).json();
    expect(view.clips.map(({ name }: { name: string }) => name)).toEqual(['storm.mp4']);
    expect(view.takes).toHaveLength(1);
    expect((await server.production()).clips.map(({ name }) => name)).toEqual(['walk.mp4']);
    expect(view.productions.map(({ name }: ProductionName) => name)).toEqual(['First production', 'Storm Watch']);
    await change(storm.id, { putAway: true });
  });

  it('are named, put away and brought back, and one stays open', async () => {
    const { id, productions } = await server.production();
    expect((await change(id, { name: 'Harbour Signals' })).json()).toEqual({
      id,
      name: 'Harbour Signals',
      putAway: false,
    });
    expect((await change(id, { putAway: true })).json().error.code).toBe('LAST_PRODUCTION');
    expect((await change(productions[1].id, { putAway: false })).json().putAway).toBe(false);
    expect((await change(id, { putAway: true })).statusCode).toBe(200);
    expect((await server.production()).id).toBe(productions[1].id);
    await change(id, { putAway: false });
    expect((await change(id, { name: '' })).statusCode).toBe(400);
    expect((await server.call('POST', '/api/productions', {})).statusCode).toBe(400);
    const nobody = '00000000-0000-4000-8000-000000000000';
    for (const answer of [await change(nobody, {}), await server.call('GET', `/api/production?id=${nobody}`)])
      expect(answer.json().error.code).toBe('PRODUCTION_NOT_FOUND');
  });

  it('are never all away: one is made where none is open', async () => {
    const { rows } = await server.connection.pool.query('select id from productions where put_away_at is null');
    await server.connection.pool.query('update productions set put_away_at = now()');
    expect((await server.production()).productions.at(-1)).toMatchObject({ name: 'First production', putAway: false });
    await server.connection.pool.query('delete from productions where put_away_at is null');
    for (const { id } of rows as { id: string }[]) await change(id, { putAway: false });
  });
});

describe('events', () => {
  /** Reads a stream of events. */
  async function listen(
    query = '',
  ): Promise<{ next: (wanted: (event: ServerEvent) => boolean) => Promise<ServerEvent>; end: () => void }> {
    const stop = new AbortController();
    const answer = await fetch(`${address}/api/events${query}`, { signal: stop.signal });
    const reader = answer.body?.getReader();
    const events: ServerEvent[] = [];
    let text = '';
    const next = async (wanted: (event: ServerEvent) => boolean): Promise<ServerEvent> => {
      for (;;) {
        const at = events.findIndex(wanted);
        if (at >= 0) return events.splice(0, at + 1)[at];
        const { value, done } = (await reader?.read()) ?? { done: true };
        if (done) throw new Error('The stream ended.');
        text += new TextDecoder().decode(value);
        const lines = text.split('\n\n');
        text = lines.pop() ?? '';
        events.push(...lines.filter((line) => line.startsWith('data: ')).map((line) => JSON.parse(line.slice(6))));
      }
    };
    return { next, end: () => stop.abort() };
  }
  const changed = (event: ServerEvent) => event.kind === 'changed';

  it('begin with everything, then tell what changed and nothing else', async () => {
    const { next, end } = await listen();
    const all = await next(() => true);
    expect(all).toMatchObject({ kind: 'all', production: { takes: [{ id: takeId }] } });
    expect(JSON.stringify(all)).not.toContain('records');
    await patch({ name: 'Told at once' });
    expect(await next(changed)).toMatchObject({ clips: [], takes: [{ id: takeId, name: 'Told at once' }], gone: [] });
    const copy = (
      await server.call('POST', `/api/clips/${(await server.production()).clips[0].id}/takes`, {
        fromFrame: 0,
        untilFrame: 9,
      })
    ).json();
    expect(await next(changed)).toMatchObject({ takes: [{ id: copy.id }] });
    await server.call('DELETE', `/api/takes/${copy.id}`);
    expect(await next(changed)).toMatchObject({ takes: [], gone: [copy.id] });
    end();
  });

  it('tell of a run, and to who has the take open what the tracker sees', async () => {
    const open = await listen(`?take=${takeId}`);
    await open.next(({ kind }) => kind === 'preview');
    const { id } = (await server.call('POST', `/api/takes/${takeId}/capture`)).json();
    expect(await open.next(changed)).toMatchObject({ takes: [{ run: { id, state: 'waiting' } }] });
    const preview = { stage: 'marks', frame: 7, marks: [1, null, 0.5] };
    await server.connection.pool.query("update runs set state = 'running', preview = $2 where id = $1", [id, preview]);
    expect(await open.next((event) => event.kind === 'preview' && event.preview !== null)).toEqual({
      kind: 'preview',
      takeId,
      preview,
    });
    await server.call('POST', `/api/takes/${takeId}/cancel`);
    expect(await open.next(changed)).toMatchObject({ takes: [{ run: { state: 'cancelled' } }] });
    open.end();
  });

  it('go on after the connection to the database was lost, with everything once more', async () => {
    const { next, end } = await listen();
    await next(({ kind }) => kind === 'all');
    await server.connection.pool.query(
      "select pg_terminate_backend(pid) from pg_stat_activity where application_name = 'merry-shadow changes'",
    );
    await patch({ name: 'Changed meanwhile' });
    expect(await next(({ kind }) => kind === 'all')).toMatchObject({
      production: { takes: [{ name: 'Changed meanwhile' }] },
    });
    await patch({ name: 'And later' });
    expect(await next(changed)).toMatchObject({ takes: [{ name: 'And later' }] });
    end();
  });

  it('tell of productions', async () => {
    const { next, end } = await listen();
    await next(({ kind }) => kind === 'all');
    await server.call('POST', '/api/productions', { name: 'Night Ferry' });
    const event = await next(({ kind }) => kind === 'productions');
    expect(JSON.stringify(event)).toContain('Night Ferry');
    end();
  });
});
