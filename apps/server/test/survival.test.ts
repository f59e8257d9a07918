import { execFileSync, type ChildProcess } from 'node:child_process';
import { createServer } from 'node:net';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { TakeView } from '@merry-shadow/contracts/take';
import { startDatabase, type PrivateDatabase } from '../../../tools/postgres';
import { startProgram } from '../../../tools/processes';
import { mediaProcesses } from '../../../tools/soak/verify';

/** Real processes that are killed in the middle of a capture: nothing stored is lost or done twice. */
const data = mkdtempSync(join(tmpdir(), 'merry-survival-'));
const started: ChildProcess[] = [];
let database: PrivateDatabase;
let environment: Record<string, string>;
let address = '';

const freePort = (): Promise<number> =>
  new Promise((resolve) => {
    const probe = createServer().listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => resolve(port));
    });
  });

async function start(script: string): Promise<ChildProcess> {
  const { child, hello } = await startProgram(script, environment);
  started.push(child);
  if (hello.address) address = String(hello.address);
  return child;
}
const worker = (): Promise<ChildProcess> => start('apps/server/src/worker.ts');
const server = (): Promise<ChildProcess> => start('apps/server/src/main.ts');

async function kill(child: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}

async function call<T>(path: string, init?: RequestInit): Promise<T> {
  const response = await fetch(address + path, init);
  if (!response.ok) throw new Error(await response.text());
  return (response.status === 204 ? null : await response.json()) as T;
}
async function upload(path: string, name: string): Promise<void> {
  const form = new FormData();
  form.append('file', new Blob([readFileSync(path)]), name);
  await call('/api/clips', { method: 'POST', body: form });
}
const clip = async (name: string) =>
  (await call<ProductionView>('/api/production')).clips.find((item) => item.name === name);
const take = async (): Promise<TakeView | undefined> => (await call<ProductionView>('/api/production')).takes[0];

async function until(what: string, test: () => Promise<boolean>): Promise<void> {
  for (
    const deadline = Date.now() + 90_000;
    Date.now() < deadline;
    await new Promise((resolve) => setTimeout(resolve, 150))
  )
    if (await test().catch(() => false)) return;
  throw new Error(`Waited in vain until ${what}.`);
}

async function query<T extends object>(text: string): Promise<T[]> {
  const client = new Client({ connectionString: database.url });
  await client.connect();
  const { rows } = await client.query<T>(text);
  await client.end();
  return rows;
}

beforeAll(async () => {
  const port = await freePort();
  database = await startDatabase(join(data, 'postgres'), port);
  environment = {
    MERRY_SHADOW_ROOT: process.cwd(),
    MERRY_SHADOW_DATA: data,
    MERRY_SHADOW_DATABASE: database.url,
    MERRY_SHADOW_PORT: String(await freePort()),
    MERRY_SHADOW_LOG: 'silent',
  };
  await server();
});
afterAll(async () => {
  for (const child of started) child.kill('SIGKILL');
  await database?.stop();
  rmSync(data, { recursive: true, force: true });
});

it('a capture outlives its worker, the server and a restart of the database', async () => {
  const first = await worker();
  await upload('demo/clips/walk-the-planks.mp4', 'walk.mp4');
  await until('the clip is prepared', async () => (await take()) !== undefined);
  const id = (await take())?.id;
  await call(`/api/takes/${id}`, {
    method: 'PATCH',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ settings: { hands: false, face: false } }),
  });
  const capture = (): Promise<unknown> => call(`/api/takes/${id}/capture`, { method: 'POST' });

  await capture();
  await until('the first worker is at work', async () => ((await take())?.run?.doneFrames ?? 0) > 10);
  await kill(first);
  await worker();
  await until(
    'another worker has taken over',
    async () => ((await take())?.run?.doneFrames ?? 0) > 10 && (await take())?.run?.state === 'running',
  );
  await kill(started[0]);
  const port = Number(new URL(database.url).port);
  await database.stop();
  database = await startDatabase(join(data, 'postgres'), port);
  await server();
  await until('the capture is done', async () => (await take())?.run?.state === 'done');

  const broken = await query<{ first: number; frames: number; data: Buffer }>(
    "select first, frames, data from observation_chunks where part = 'body' order by first",
  );
  expect(broken.map(({ first: from, frames }) => [from, frames])).toEqual([
    [0, 150],
    [150, 150],
  ]);
  // The same take once more, undisturbed, gives the same bytes.
  const before = (await take())?.run?.id;
  await capture();
  await until(
    'the second capture is done',
    async () => (await take())?.run?.state === 'done' && (await take())?.run?.id !== before,
  );
  const runs = await query<{ data: Buffer }>(
    `select data from observation_chunks where part = 'body' and run_id = '${(await take())?.run?.id}' order by first`,
  );
  runs.forEach(({ data: bytes }, i) => expect(Buffer.compare(bytes, broken[i].data)).toBe(0));
}, 240_000);

describe('preparing', () => {
  const long = join(data, 'long.mp4');
  beforeAll(() => {
    const picture = 'testsrc2=size=1280x720:rate=30:duration=25';
    execFileSync('ffmpeg', ['-loglevel', 'error', '-f', 'lavfi', '-i', picture, '-preset', 'ultrafast', long]);
  });
  const beingPrepared = (name: string) => async (): Promise<boolean> =>
    (await clip(name))?.state === 'preparing' && mediaProcesses(data).length > 0;

  it('is taken up again within seconds when its worker is killed, and its ffmpeg ends with it', async () => {
    await upload(long, 'killed.mp4');
    await until('it is being prepared', beingPrepared('killed.mp4'));
    const workers = started.filter(({ spawnargs }) => spawnargs.some((arg) => arg.includes('worker')));
    for (const child of workers) if (child.exitCode === null && child.signalCode === null) await kill(child);
    await new Promise((resolve) => setTimeout(resolve, 200));
    expect(mediaProcesses(data)).toEqual([]);
    await worker();
    const began = Date.now();
    await until('it is taken up again', beingPrepared('killed.mp4'));
    expect(Date.now() - began).toBeLessThan(10_000);
    await until('it is ready', async () => (await clip('killed.mp4'))?.state === 'ready');
  }, 120_000);

  it('does not keep a worker from ending within five seconds of being asked', async () => {
    writeFileSync(long, Buffer.concat([readFileSync(long), Buffer.from('another content')]));
    await upload(long, 'asked.mp4');
    await until('it is being prepared', beingPrepared('asked.mp4'));
    const asked = started[started.length - 1];
    const gone = new Promise((resolve) => asked.once('exit', resolve));
    const began = Date.now();
    asked.kill('SIGTERM');
    expect(await gone).toBe(0);
    expect(Date.now() - began).toBeLessThan(5000);
    expect(mediaProcesses(data)).toEqual([]);
    await worker();
    await until('it is ready', async () => (await clip('asked.mp4'))?.state === 'ready');
  }, 120_000);
});

it('a server whose port is taken opens at the next free one', async () => {
  const holder = createServer().listen(0, '127.0.0.1');
  await new Promise((resolve) => holder.once('listening', resolve));
  const { port } = holder.address() as { port: number };
  const { child, hello } = await startProgram('apps/server/src/main.ts', {
    ...environment,
    MERRY_SHADOW_PORT: String(port),
  });
  started.push(child);
  holder.close();
  const opened = Number(new URL(String(hello.address)).port);
  expect(opened).toBeGreaterThan(port);
  expect(opened).toBeLessThan(port + 50);
});
