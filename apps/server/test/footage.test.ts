import type { ClipView } from '@merry-shadow/contracts/clip';
import type { HandShapeView } from '@merry-shadow/contracts/hand-shape';
import type { MediaShare, MediaView } from '@merry-shadow/contracts/media';
import type { PerformerView, PresetView } from '@merry-shadow/contracts/performer';
import type { OpenTakeView, PastRun, TakeView } from '@merry-shadow/contracts/take';
import { HAND_ANGLES } from '@merry-shadow/core/hands/finger-turns';
import { adoptOrphans } from '../src/queue/orphans';
import { ServerInProcess } from './in-process';
import { madeClip, pattern } from './made-clips';

/** Footage and takes in their lists: judged, named, replaced, copied, thrown away, and who performs in them. */
let server: ServerInProcess;
const call = (...args: Parameters<ServerInProcess['call']>) => server.call(...args);
const takes = async (): Promise<TakeView[]> => (await server.production()).takes;
const clip = async (name: string): Promise<ClipView> => {
  const found = (await server.production()).clips.find((item) => item.name === name);
  if (!found) throw new Error(`No clip ${name}.`);
  return found;
};
const error = (answer: { json: () => unknown }) =>
  (answer.json() as { error: { code: string; message: string } }).error;

beforeAll(async () => {
  server = await ServerInProcess.start();
  await server.upload('walk.mp4', madeClip('walk.mp4', pattern(2)));
  await server.runJobs();
});
afterAll(() => server?.stop());

describe('a clip', () => {
  it('is judged by itself after it was prepared', async () => {
    const { id, judged } = await clip('walk.mp4');
    expect(judged).toMatchObject({ count: expect.any(Number), worst: expect.any(String) });
    const looks = (await call('GET', `/api/clips/${id}/looks`)).json() as { at: number[]; cuts: number[] };
    expect(looks.at.length).toBeGreaterThan(3);
  });

  it('is looked at again when a worker died while it looked', async () => {
    const { id } = await clip('walk.mp4');
    await server.connection.pool.query('update clips set judged = null where id = $1', [id]);
    expect(await adoptOrphans(server.connection, server.queue)).toBe(1);
    expect((await clip('walk.mp4')).judged).toBeNull();
    await server.runJobs();
    expect((await clip('walk.mp4')).judged).not.toBeNull();
    expect(await adoptOrphans(server.connection, server.queue)).toBe(0);
  });

  it('that could not be looked at is said to be so, and can still be tracked', async () => {
    const { id } = await clip('walk.mp4');
    const { pool } = server.connection;
    const { rows } = await pool.query<{ looks: object }>('select looks from prepared');
    await pool.query('update prepared set looks = null');
    await pool.query('update clips set judged = null where id = $1', [id]);
    const looks = jest.spyOn(server.pool, 'looks').mockRejectedValueOnce(new Error('No thread is left.'));
    await adoptOrphans(server.connection, server.queue);
    await server.runJobs();
    expect((await clip('walk.mp4')).judged).toEqual({ count: 0, severity: 0, worst: 'It could not be looked at.' });
    expect(server.complaints.map(({ message }) => message)).toContain('No thread is left.');
    looks.mockRestore();
    await pool.query('update prepared set looks = $1', [JSON.stringify(rows[0].looks)]);
    await pool.query('update clips set judged = null where id = $1', [id]);
    await adoptOrphans(server.connection, server.queue);
    await server.runJobs();
  });

  it('that is here already is told by its content, and brought in again only when that is wanted', async () => {
    const again = await server.upload('other name.mp4', madeClip('walk.mp4', pattern(2)), '?known=refuse');
    expect([again.statusCode, error(again).message]).toEqual([409, 'The same file is already here: “walk.mp4”.']);
    expect((await server.upload('other name.mp4', madeClip('walk.mp4', pattern(2)))).statusCode).toBe(201);
    await server.runJobs();
    // What was measured belongs to the content.
    expect((await clip('other name.mp4')).judged).toEqual((await clip('walk.mp4')).judged);
    await call('DELETE', `/api/clips/${(await clip('other name.mp4')).id}`);
  });

  it('has a name, tags and notes', async () => {
    const { id } = await clip('walk.mp4');
    const change = { name: 'The walk', tags: ['pier', 'evening'], notes: 'Second try.' };
    expect((await call('PATCH', `/api/clips/${id}`, change)).json()).toMatchObject(change);
    expect((await call('PATCH', `/api/clips/${id}`, { name: ' ' })).statusCode).toBe(400);
    await call('PATCH', `/api/clips/${id}`, { name: 'walk.mp4' });
    expect((await clip('walk.mp4')).tags).toEqual(['pier', 'evening']);
  });

  it('is replaced by a better file with another rate: takes, settings and edits stay, frames keep their meaning', async () => {
    const { id, facts, hash } = await clip('walk.mp4');
    const [take] = await takes();
    await call('PATCH', `/api/takes/${take.id}`, { fromFrame: 7, untilFrame: 31, settings: { height: 1.7 } });
    const better = madeClip('better.mp4', pattern(2, '640x480', 50));
    expect((await server.upload('better.mp4', better, `/${id}/replace`)).statusCode).toBe(202);
    await server.runJobs();
    const after = await clip('walk.mp4');
    expect(after).toMatchObject({ state: 'ready', facts: { width: 640, rate: facts?.rate, frames: facts?.frames } });
    expect(after.hash).not.toBe(hash);
    expect(after.judged).not.toBeNull();
    const stays = (await takes()).find((item) => item.id === take.id);
    expect(stays).toMatchObject({ fromFrame: 7, untilFrame: 31, settings: { height: 1.7 } });
  });

  it('is not replaced by what is no video: all stays as it was', async () => {
    const before = await clip('walk.mp4');
    const answer = await server.upload('notes.mp4', Buffer.from('no video at all'), `/${before.id}/replace`);
    expect([answer.statusCode, error(answer).message]).toEqual([422, expect.stringContaining('no video')]);
    expect(await clip('walk.mp4')).toEqual(before);
  });
});

describe('two recordings of one performance', () => {
  /** Clicks at uneven times, and noise. @param from where in it the recording begins, seconds. */
  const sound = (from: number): string[] => [
    ...['-f', 'lavfi', '-i', 'testsrc2=size=160x120:rate=25:duration=8'],
    ...[
      '-f',
      'lavfi',
      '-i',
      `aevalsrc=0.6*sin(2*PI*900*t)*exp(-40*mod((t+${from})*(t+${from})*0.6\\,1))+0.01*random(0):d=8:s=16000`,
    ],
    ...['-pix_fmt', 'yuv420p', '-shortest'],
  ];

  it('are lined up by their sound, to a part of a frame, and told with both', async () => {
    await server.upload('front.mp4', madeClip('front.mp4', sound(1)));
    await server.upload('side.mp4', madeClip('side.mp4', sound(2.31)));
    await server.runJobs();
    const [front, side] = [await clip('front.mp4'), await clip('side.mp4')];
    expect(front.together).toEqual([{ clipId: side.id, offset: expect.closeTo(1.31, 2) }]);
    expect(side.together).toEqual([{ clipId: front.id, offset: expect.closeTo(-1.31, 2) }]);
    await call('DELETE', `/api/clips/${side.id}`);
    expect((await clip('front.mp4')).together).toEqual([]);
    await call('DELETE', `/api/clips/${front.id}`);
  });
});

describe('takes in their list', () => {
  it('are copied with settings and edits, ordered, one of them the best', async () => {
    const [first] = await takes();
    const { id } = (await call('POST', `/api/takes/${first.id}/duplicate`)).json() as { id: string };
    const copy = (await call('GET', `/api/takes/${id}`)).json() as OpenTakeView;
    expect(copy).toMatchObject({ name: `${first.name} (2)`, settings: first.settings, fromFrame: first.fromFrame });
    expect((await takes()).map((take) => take.id)).toEqual([first.id, id]);
    await call('PATCH', `/api/takes/${id}/listing`, { place: first.place - 1, best: true });
    await call('PATCH', `/api/takes/${first.id}/listing`, { best: true });
    expect((await takes()).map((take) => [take.id, take.best])).toEqual([
      [id, false],
      [first.id, true],
    ]);
  });

  it('are thrown away and brought back, and leave the queue when they go', async () => {
    const [take] = await takes();
    await call('POST', `/api/takes/${take.id}/capture`);
    await call('PATCH', `/api/takes/${take.id}/listing`, { removed: true });
    expect((await takes())[0]).toMatchObject({ removed: true, run: { state: 'cancelled' } });
    await call('PATCH', `/api/takes/${take.id}/listing`, { removed: false });
    expect((await takes())[0]).toMatchObject({ removed: false });
    const past = (await call('GET', `/api/takes/${take.id}/runs`)).json() as PastRun[];
    expect(past).toMatchObject([{ state: 'cancelled', hands: true, fine: false }]);
    server.jobs.length = 0;
  });

  it('get settings together: all, or none when one of them is gone', async () => {
    const list = (await takes()).map(({ id }) => id);
    const settings = { manner: 'spot', hands: false };
    expect(
      (await call('PATCH', '/api/takes/settings', { takes: list, settings, label: 'lay a preset over' })).statusCode,
    ).toBe(204);
    expect((await takes()).every((take) => take.settings.manner === 'spot' && !take.settings.hands)).toBe(true);
    const gone = { takes: [...list, '00000000-0000-4000-8000-000000000000'], settings: { hands: true }, label: '' };
    expect((await call('PATCH', '/api/takes/settings', gone)).statusCode).toBe(404);
    expect((await takes()).some((take) => take.settings.hands)).toBe(false);
    const far = { takes: list, settings: { calibration: 9999 }, label: '' };
    expect((await call('PATCH', '/api/takes/settings', far)).statusCode).toBe(422);
  });
});

describe('performers of a production', () => {
  it('carry their height to all takes that did not say another one', async () => {
    const { id: production } = await server.production();
    const body = { name: 'Keeper', height: 1.78, colour: '#7a4a9e' };
    const keeper = (await call('POST', `/api/productions/${production}/performers`, body)).json() as PerformerView;
    const [one, other] = await takes();
    for (const { id } of [one, other])
      await call('PATCH', `/api/takes/${id}`, { settings: { performedBy: keeper.id, height: 1.78 } });
    await call('PATCH', `/api/takes/${other.id}`, { settings: { height: 1.6 } });
    await call('PATCH', `/api/performers/${keeper.id}`, { height: 1.8 });
    const heights = (await takes()).map((take) => take.settings.height);
    expect(heights).toEqual([1.8, 1.6]);
    expect((await server.production()).performers).toEqual([{ ...keeper, height: 1.8 }]);
    expect((await call('DELETE', `/api/performers/${keeper.id}`)).statusCode).toBe(204);
    expect((await call('PATCH', `/api/performers/${keeper.id}`, { height: 1.7 })).statusCode).toBe(404);
  });

  it('have presets beside them', async () => {
    const { id: production } = await server.production();
    const settings = { ...(await takes())[0].settings, manner: 'seated' as const };
    const { fieldOfView, tilt, steady, hands, face, manner, fine, slowMotion } = settings;
    const body = {
      name: 'At the crate',
      settings: { fieldOfView, tilt, steady, hands, face, manner, fine, slowMotion },
    };
    const preset = (await call('POST', `/api/productions/${production}/presets`, body)).json() as PresetView;
    expect((await server.production()).presets).toEqual([preset]);
    await call('DELETE', `/api/presets/${preset.id}`);
    expect((await server.production()).presets).toEqual([]);
  });

  it('share the hand shapes that are kept, one of each name', async () => {
    const shape = { name: 'flag grip', angles: Array.from({ length: HAND_ANGLES }, (_, i) => i / 20) };
    const first = (await call('POST', '/api/hand-shapes', shape)).json() as HandShapeView;
    const again = await call('POST', '/api/hand-shapes', { ...shape, angles: shape.angles.map((angle) => -angle) });
    expect([again.statusCode, (again.json() as HandShapeView).id]).toEqual([201, first.id]);
    expect((await server.production()).handShapes).toEqual([again.json()]);
    expect((await call('POST', '/api/hand-shapes', { name: 'half', angles: [1] })).statusCode).toBe(400);
    await call('DELETE', `/api/hand-shapes/${first.id}`);
    expect((await server.production()).handShapes).toEqual([]);
    expect((await call('DELETE', `/api/hand-shapes/${first.id}`)).statusCode).toBe(404);
  });
});

describe('the disk', () => {
  it('is told part by part, and what is dropped comes back when it is needed', async () => {
    const { id, hash, judged } = await clip('walk.mp4');
    const media = async (): Promise<MediaShare> =>
      ((await call('GET', '/api/media')).json() as MediaView).clips.find(({ clipId }) => clipId === id) as MediaShare;
    const before = await media();
    expect(before).toMatchObject({ production: 'First production', tracked: 0 });
    expect(Math.min(before.original, before.prepared)).toBeGreaterThan(1000);
    expect((await call('GET', `/api/clips/${id}/proxy`)).statusCode).toBe(200);
    await call('POST', '/api/media/drop', { clips: [id], part: 'prepared' });
    expect((await media()).prepared).toBe(0);
    // Lists still show it; whoever wants the video has it made again.
    expect((await call('GET', `/api/clips/${id}/poster`)).statusCode).toBe(200);
    expect((await call('GET', `/api/clips/${id}/proxy`)).statusCode).toBe(409);
    expect((await clip('walk.mp4')).state).toBe('waiting');
    await server.runJobs();
    expect((await call('GET', `/api/clips/${id}/proxy`)).statusCode).toBe(200);
    expect(await clip('walk.mp4')).toMatchObject({ hash, judged, state: 'ready' });
    expect((await media()).prepared).toBe(before.prepared);
  });

  it('lets go of what was tracked, and of what was tracked before that', async () => {
    const [take] = await takes();
    const { pool } = server.connection;
    const run = async (state: string, at: string): Promise<string> => {
      const { rows } = await pool.query<{ id: string }>(
        'insert into runs (take_id, state, from_frame, until_frame, created_at) values ($1, $2, 0, 10, $3) returning id',
        [take.id, state, at],
      );
      await pool.query(
        "insert into observation_chunks (run_id, first, frames, part, data) values ($1, 0, 10, 'body', $2)",
        [rows[0].id, Buffer.alloc(5000, 1)],
      );
      return rows[0].id;
    };
    const ids = [await run('done', '2026-01-01'), await run('done', '2026-01-02'), await run('failed', '2026-01-03')];
    const left = async (): Promise<string[]> =>
      (await pool.query<{ id: string }>('select id from runs where id = any($1)', [ids])).rows.map((row) => row.id);
    const drop = (part: string) => call('POST', '/api/media/drop', { clips: [take.clipId], part });
    await drop('older');
    expect(await left()).toEqual([ids[1]]);
    await drop('tracked');
    expect(await left()).toEqual([]);
    expect((await takes())[0].captured).toBeNull();
  });
});
