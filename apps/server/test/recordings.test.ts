import { cpSync, existsSync, readdirSync, renameSync, utimesSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { Footage } from '../src/media/footage';
import { Recordings } from '../src/media/recordings';
import { ServerInProcess } from './in-process';
import { madeClip } from './made-clips';

/** Recordings that come in piece by piece, are finished, thrown away, or left by their page. */
let server: ServerInProcess;
/** As a browser writes it: no length, and times of its own. */
const recorded = (seconds: number): Buffer =>
  madeClip('film.webm', [
    ...['-f', 'lavfi', '-i', `testsrc2=size=320x240:rate=20:duration=${seconds}`],
    ...['-f', 'lavfi', '-i', `sine=duration=${seconds}`],
    ...['-c:v', 'libvpx', '-deadline', 'realtime', '-c:a', 'libopus', '-live', '1', '-f', 'webm'],
  ]);
const film = recorded(3);
beforeAll(async () => {
  server = await ServerInProcess.start();
});
afterAll(() => server?.stop());

const begin = async (name: string): Promise<string> => {
  const { id: production } = await server.production();
  return ((await server.call('POST', '/api/recordings', { production, name })).json() as { id: string }).id;
};
const send = (id: string, at: number, piece: Buffer) =>
  server.call('POST', `/api/recordings/${id}/pieces?at=${at}`, piece, { 'content-type': 'application/octet-stream' });
const clip = async (name: string): Promise<ClipView | undefined> =>
  (await server.production()).clips.find((item) => item.name === name);
const folder = (id: string): string => join(server.settings.data, 'recordings', id);

it('becomes a clip with all its pieces, whichever came twice', async () => {
  const id = await begin('Try 1');
  const third = Math.floor(film.length / 3);
  expect((await send(id, 0, film.subarray(0, third))).statusCode).toBe(204);
  // An answer was lost: the page sends it again.
  expect((await send(id, 0, film.subarray(0, third))).statusCode).toBe(204);
  // A piece is missing: nothing is written over the gap.
  expect((await send(id, 2 * third, film.subarray(2 * third))).statusCode).toBe(409);
  expect((await send(id, third, film.subarray(third))).statusCode).toBe(204);
  expect((await server.call('POST', `/api/recordings/${id}/finish`)).statusCode).toBe(201);
  await server.runJobs();
  expect(await clip('Try 1')).toMatchObject({
    state: 'ready',
    facts: { width: 320, height: 240, rate: 20, frames: 60, hasSound: true },
  });
  expect(existsSync(folder(id))).toBe(false);
});

it('that its page left is rescued up to the last piece', async () => {
  const id = await begin('Try 2');
  // The tab crashed in the middle of a block.
  await send(id, 0, film.subarray(0, Math.floor(film.length * 0.7)));
  const recordings = new Recordings(
    server.settings,
    new Footage(server.connection, server.locks, server.queue, server.settings),
  );
  expect(await recordings.rescue()).toBe(0);
  const old = new Date(Date.now() - 30_000);
  utimesSync(join(folder(id), 'film'), old, old);
  expect(await recordings.rescue()).toBe(1);
  await server.runJobs();
  const rescued = await clip('Try 2');
  expect(rescued?.state).toBe('ready');
  expect(rescued?.facts?.seconds).toBeGreaterThan(1.2);
});

it('is one clip when the server dies right after it was made', async () => {
  const id = await begin('Try 5');
  await send(id, 0, recorded(1));
  // What a death between the clip and the end of the recording leaves: the recording is still there.
  cpSync(folder(id), `${folder(id)}.kept`, { recursive: true });
  const made = (await server.call('POST', `/api/recordings/${id}/finish`)).json() as { clipId: string };
  renameSync(`${folder(id)}.kept`, folder(id));
  const again = (await server.call('POST', `/api/recordings/${id}/finish`)).json() as { clipId: string };
  expect(again).toEqual(made);
  expect((await server.production()).clips.filter(({ name }) => name === 'Try 5')).toHaveLength(1);
  await server.call('DELETE', `/api/clips/${made.clipId}`);
  server.jobs.length = 0;
});

it('that holds nothing is dropped, and one that is thrown away leaves nothing', async () => {
  const id = await begin('Try 3');
  expect((await server.call('POST', `/api/recordings/${id}/finish`)).statusCode).toBe(409);
  await send(id, 0, film);
  expect((await server.call('DELETE', `/api/recordings/${id}`)).statusCode).toBe(204);
  expect((await send(id, 0, film)).statusCode).toBe(409);
  expect(readdirSync(join(server.settings.data, 'recordings'))).toEqual([]);
  expect(await clip('Try 3')).toBeUndefined();
});

it('stops before the disk is full, and keeps what came', async () => {
  const id = await begin('Try 4');
  await send(id, 0, film.subarray(0, 40_000));
  const full = new Recordings(
    { ...server.settings, room: 1e15 },
    new Footage(server.connection, server.locks, server.queue, server.settings),
  );
  await expect(full.append(id, 40_000, film.subarray(40_000))).rejects.toThrow('is full');
  expect((await send(id, 40_000, film.subarray(40_000))).statusCode).toBe(204);
  await server.call('DELETE', `/api/recordings/${id}`);
});
