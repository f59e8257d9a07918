import { readFileSync } from 'node:fs';
import { Client } from 'pg';
import type { OpenTakeView } from '@merry-shadow/contracts/take';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { depthOf } from '../src/http/json-body';
import { isDatabaseError, shortMessage } from '../src/shell/errors-in-words';
import { ServerInProcess } from './in-process';
import { madeClip, pattern } from './made-clips';

/** Requests that are odd, broken, too much, or come at the same time. */
let server: ServerInProcess;
let clip: ClipView;
let takeId = '';
beforeAll(async () => {
  server = await ServerInProcess.start();
  await server.upload('walk.mp4', madeClip('walk.mp4', pattern(4)));
  await server.runJobs();
  const { clips, takes } = await server.production();
  [clip] = clips;
  takeId = takes[0].id;
});
afterAll(() => server?.stop());

const patch = (body: object | string) =>
  server.call('PATCH', `/api/takes/${takeId}`, body as object, { 'content-type': 'application/json' });
const take = async () => (await server.production()).takes.find(({ id }) => id === takeId);

describe('an answer', () => {
  it('to a part of a file that is not there stays 416', async () => {
    const answer = await server.call('GET', `/api/clips/${clip.id}/proxy`, undefined, { range: 'bytes=99999999-' });
    expect(answer.statusCode).toBe(416);
  });

  it.each([
    ['no boundary', 'multipart/form-data', '--x\r\n\r\n--x--\r\n'],
    [
      'no end',
      'multipart/form-data; boundary=x',
      '--x\r\ncontent-disposition: form-data; name="file"; filename="a"\r\n\r\nab',
    ],
    ['nothing in it', 'multipart/form-data; boundary=x', ''],
    ['no form at all', 'application/octet-stream', 'abc'],
  ])('to a form with %s is a sentence', async (_, type, payload) => {
    const answer = await server.call('POST', '/api/clips', payload as unknown as object, { 'content-type': type });
    expect([400, 422]).toContain(answer.statusCode);
    expect(answer.json().error.message).toMatch(/\w+ .*\.$/);
    expect((await server.production()).clips).toHaveLength(1);
  });

  it('to two files in one form is a sentence, and neither is kept', async () => {
    const part = '--x\r\ncontent-disposition: form-data; name="file"; filename="a.mp4"\r\n\r\nabc\r\n';
    const answer = await server.call('POST', '/api/clips', `${part}${part}--x--\r\n` as unknown as object, {
      'content-type': 'multipart/form-data; boundary=x',
    });
    expect(answer.json().error.code).toBe('ONE_FILE');
    expect((await server.production()).clips).toHaveLength(1);
  });

  it('to a name with odd signs keeps the rest of it', async () => {
    const { id } = (await server.upload('gu\u0001ll 🜂.mp4', Buffer.from('no video'))).json() as ClipView;
    expect((await server.production()).clips.find((item) => item.id === id)?.name).toBe('gull 🜂.mp4');
    await server.call('DELETE', `/api/clips/${id}`);
    server.jobs.length = 0;
  });

  it.each([
    ['NUL in a name', '{"name":"a\\u0000b"}', 'name'],
    ['half a sign in a name', '{"name":"a\\ud800"}', 'name'],
    ['NUL in a key', '{"edits":{"passes":[{"pass":"smooth","options":{"a\\u0000":1}}]}}', 'edits'],
    ['too deep JSON', `{"edits":${'['.repeat(5000)}${']'.repeat(5000)}}`, 'levels'],
    ['a broken body', '{"name":', 'JSON'],
    ['an unknown field', '{"colour":"red"}', 'colour'],
    ['an unknown setting', '{"settings":{"shoes":2}}', 'shoes'],
    ['a number beyond all', '{"settings":{"height":1e999}}', 'height'],
  ])('to %s is 400 and names it', async (_, body, named) => {
    const answer = await patch(body);
    expect(answer.statusCode).toBe(400);
    expect(answer.json().error.message).toContain(named);
  });

  const plant = { kind: 'plant', id: 'p', part: 'leftHeel', from: 5, until: 20 };
  const smooth = { kind: 'pass', id: 's', pass: 'smooth' };
  const slow = (id: string) => ({ kind: 'timing', id, pass: 'retime', options: { speed: 10 } });
  it.each([
    ['a span that ends before it starts', [{ ...smooth, range: [40, 30] }], 'edits.records.0'],
    ['a plant that ends before it starts', [{ ...plant, until: 3 }], 'edits.records.0'],
    ['a span beyond the clip', [{ ...smooth, range: [0, 101] }], 'edits.records.0'],
    ['a span before the clip', [{ ...smooth, range: [-1, 10] }], 'edits.records.0'],
    ['a plant beyond the clip', [plant, { ...plant, id: 'q', until: 999 }], 'edits.records.1'],
    ['a place beyond 10 km', [{ ...plant, place: [0, 0, 10_001] }], '10 km'],
    ['two records with one id', [plant, { ...smooth, id: 'p' }], 'same id'],
    ['an unknown option', [{ ...smooth, options: { softness: 1 } }], 'softness'],
    ['a change of the timing as a pass', [{ ...smooth, pass: 'retime' }], 'Faster or slower'],
    ['an enormous result', ['a', 'b', 'c', 'd'].map(slow), '990001 frames'],
  ])('to %s is refused and names it', async (_, records, named) => {
    const before = await take();
    const answer = await patch({ edits: { records } });
    expect(answer.statusCode).toBe(422);
    expect(answer.json().error.message).toContain(named);
    expect(await take()).toEqual(before);
  });

  it.each([
    ['calibration', { calibration: 100 }],
    ['performer', { performer: { frame: 100, x: 1, y: 1 } }],
  ])('to a frame of the clip that is not there names the setting %s', async (field, settings) => {
    expect((await patch({ settings })).json().error.message).toContain(field);
  });

  it('never gives what the builder notes for itself', async () => {
    expect((await server.call('GET', '/.built')).statusCode).toBe(404);
    expect((await server.call('GET', '/.gitignore')).statusCode).toBe(404);
  });
});

describe('at the same time', () => {
  it('forty changes of settings are all kept', async () => {
    const wanted = { height: 1.7, fieldOfView: 50, tilt: 3, slowMotion: 2 };
    for (let round = 0; round < 10; round++) {
      await patch({ settings: { height: null, fieldOfView: null, tilt: null, slowMotion: 1 } });
      const answers = await Promise.all(
        Object.entries(wanted).map(([key, value]) => patch({ settings: { [key]: value } })),
      );
      expect(answers.map(({ statusCode }) => statusCode)).toEqual([200, 200, 200, 200]);
      expect((await take())?.settings).toMatchObject(wanted);
    }
  });

  it('of two changes of the same take one is refused, and nothing of the other is lost', async () => {
    const revision = (await take())?.revision as number;
    const lay = (lift: number, basedOn?: number) =>
      patch({ edits: { records: [{ kind: 'pass', id: 'h', pass: 'hip-height', options: { lift } }] }, basedOn });
    const answers = await Promise.all([lay(1, revision), lay(2, revision)]);
    expect(answers.map(({ statusCode }) => statusCode).sort()).toEqual([200, 409]);
    const stored = (await server.call('GET', `/api/takes/${takeId}`)).json() as OpenTakeView;
    const kept = answers.findIndex(({ statusCode }) => statusCode === 200);
    expect(stored.edits.records).toMatchObject([{ options: { lift: kept + 1 } }]);
    expect(answers[kept].json()).toEqual({ revision: revision + 1 });
    expect(answers[1 - kept].json().error.code).toBe('TAKE_CHANGED');
    // What names no revision is stored whatever is there; what changes nothing is no revision.
    expect((await patch({ name: 'Named' })).json()).toEqual({ revision: revision + 2 });
    expect((await patch({ name: 'Named' })).json()).toEqual({ revision: revision + 2 });
    expect((await lay(3)).json()).toEqual({ revision: revision + 3 });
  });

  it('two ends of a range never pass each other', async () => {
    for (let round = 0; round < 8; round++) {
      await patch({ fromFrame: 10, untilFrame: 90 });
      await Promise.all([patch({ fromFrame: 60 }), patch({ untilFrame: 40 })]);
      const { fromFrame = 0, untilFrame = 0 } = (await take()) ?? {};
      expect(untilFrame).toBeGreaterThan(fromFrame);
    }
    await patch({ fromFrame: 0, untilFrame: 100 });
  });

  it('six requests to capture make one run', async () => {
    const answers = await Promise.all(
      Array.from({ length: 6 }, () => server.call('POST', `/api/takes/${takeId}/capture`)),
    );
    expect(answers.map(({ statusCode }) => statusCode).sort()).toEqual([202, 409, 409, 409, 409, 409]);
    expect(server.jobs.splice(0)).toHaveLength(1);
    await server.call('POST', `/api/takes/${takeId}/cancel`);
  });
});

describe('a row and its job', () => {
  it('are both there or none', async () => {
    const real = server.queue.add;
    server.queue.add = () => Promise.reject(new Error('The queue is shut.'));
    const before = await server.production();
    expect((await server.call('POST', `/api/takes/${takeId}/capture`)).statusCode).toBe(500);
    expect((await server.upload('gull.mp4', Buffer.from('no video'))).statusCode).toBe(500);
    server.queue.add = real;
    expect(await server.production()).toEqual(before);
    expect((await server.call('POST', `/api/takes/${takeId}/capture`)).statusCode).toBe(202);
    await server.call('POST', `/api/takes/${takeId}/cancel`);
    server.jobs.length = 0;
  });
});

describe('what an error says', () => {
  it('is one bounded line, the database’s own, without what was stored', async () => {
    const huge = 'x'.repeat(1_000_000);
    const failed = await server.connection.db.execute(`select '${huge}' from nowhere`).catch((error: Error) => error);
    expect(shortMessage(failed)).toBe('relation "nowhere" does not exist');
    expect(shortMessage(new Error(`${huge}\n${huge}`)).length).toBeLessThan(500);
    expect(isDatabaseError(failed)).toBe(true);
    const away = await new Client({ host: '127.0.0.1', port: 1 }).connect().catch((error: Error) => error);
    expect(isDatabaseError(away)).toBe(true);
    for (const words of ['The connection to the database was lost.', 'Client was closed and is not queryable'])
      expect(isDatabaseError(new Error(words))).toBe(true);
    for (const code of ['ENOENT', 'EPERM', 'EXDEV', undefined])
      expect(isDatabaseError(Object.assign(new Error('no'), { code }))).toBe(false);
  });

  it('counts depth outside of text only', () => {
    expect(depthOf('{"a":[[1]],"b":"[[[[\\"{{"}')).toBe(3);
    expect(depthOf(readFileSync('package.json', 'utf8'))).toBe(2);
  });
});
