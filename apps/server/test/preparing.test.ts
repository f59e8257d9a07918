import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { Locks } from '../src/database/locks';
import { cleanLeftovers } from '../src/media/leftovers';
import { clipFiles, incomingFolder } from '../src/media/media-folder';
import * as preparing from '../src/media/prepare';
import { receiveFile } from '../src/media/receive';
import { adoptOrphans } from '../src/queue/orphans';
import { prepareJob } from '../src/queue/prepare-job';
import { ServerInProcess } from './in-process';
import { madeClip, pattern, timeBomb } from './made-clips';

jest.mock('../src/media/prepare', () => {
  const real = jest.requireActual<typeof preparing>('../src/media/prepare');
  return { ...real, prepareClip: jest.fn(real.prepareClip) };
});
const making = jest.mocked(preparing.prepareClip);

/** What becomes of files that are odd, doubled, taken away, or whose worker dies. */
let server: ServerInProcess;
beforeAll(async () => {
  server = await ServerInProcess.start();
});
afterAll(() => server?.stop());
afterEach(async () => {
  making.mockClear();
  server.jobs.length = 0;
  for (const { id } of (await server.production()).clips) await server.call('DELETE', `/api/clips/${id}`);
});

const clips = async (): Promise<ClipView[]> => (await server.production()).clips;
const bringIn = async (name: string, content: Buffer): Promise<ClipView> => {
  const { id } = (await server.upload(name, content)).json() as ClipView;
  await server.runJobs();
  const clip = (await clips()).find((item) => item.id === id);
  if (!clip) throw new Error('The clip is not there.');
  return clip;
};
const hashOf = async (id: string): Promise<string> =>
  ((await server.connection.pool.query('select hash from clips where id = $1', [id])).rows as { hash: string }[])[0]
    .hash;
const short = (seconds = 1): Buffer => madeClip('short.mp4', pattern(seconds));

describe('odd files', () => {
  it('a single frame is a clip', async () => {
    const clip = await bringIn('one.mp4', madeClip('one.mp4', [...pattern(1), '-frames:v', '1']));
    expect(clip).toMatchObject({ problem: null, state: 'ready', facts: { frames: 1 } });
    for (const file of ['poster', 'filmstrip'])
      expect((await server.call('GET', `/api/clips/${clip.id}/${file}`)).rawPayload.length).toBeGreaterThan(300);
  });

  it('a cover picture before the video is not taken for it', async () => {
    const cover = join(mkdtempSync(join(tmpdir(), 'merry-cover-')), 'cover.jpg');
    writeFileSync(
      cover,
      madeClip('cover.jpg', ['-f', 'lavfi', '-i', 'color=red:size=600x600', '-frames:v', '1', '-update', '1']),
    );
    const clip = await bringIn(
      'covered.mkv',
      madeClip('covered.mkv', [
        ...['-i', cover, ...pattern(2), '-map', '0:v', '-map', '1:v', '-c:v:0', 'copy', '-c:v:1', 'libx264'],
        ...['-disposition:v:0', 'attached_pic'],
      ]),
    );
    expect(clip).toMatchObject({ problem: null, state: 'ready', facts: { width: 320, height: 180, frames: 50 } });
  });

  it('a narrow picture is told by its own size', async () => {
    const clip = await bringIn('slit.mp4', madeClip('slit.mp4', pattern(0.2, '8192x32')));
    expect(clip).toMatchObject({ state: 'failed', problem: expect.stringContaining('8192 × 32') });
  });

  it('a small file that would go on for hours is told before it is worked on', async () => {
    const clip = await bringIn('bomb.mkv', timeBomb(60_000));
    expect(clip).toMatchObject({ state: 'failed', problem: expect.stringMatching(/16 h 40 min|16 h/) });
    expect(making).not.toHaveBeenCalled();
  });

  it('more frames or pixels than the settings allow are refused with the number', async () => {
    const limits = { ...server.settings.limits };
    Object.assign(server.settings.limits, { frames: 20 });
    expect((await bringIn('many.mp4', short())).problem).toContain('25 frames; up to 20');
    Object.assign(server.settings.limits, { ...limits, pixels: 1e6 });
    expect((await bringIn('large.mp4', short(2))).problem).toContain('320 × 180');
    Object.assign(server.settings.limits, limits);
  });

  it('a video that was cut off is brought in and says so', async () => {
    const whole = madeClip('whole.mp4', [...pattern(10, '320x180', 30), '-g', '5', '-movflags', '+faststart']);
    const clip = await bringIn('cut.mp4', whole.subarray(0, Math.round(whole.length * 0.4)));
    expect(clip.state).toBe('ready');
    const { frames = 0, missingFrames = 0 } = clip.facts ?? {};
    expect(frames).toBeLessThan(200);
    expect(frames + missingFrames).toBe(300);
    expect((await bringIn('fine.mp4', whole)).facts?.missingFrames).toBe(0);
  });

  it('what nobody foresaw ends with a sentence and a line in the log, and can be tried again', async () => {
    making.mockRejectedValueOnce(new Error('The lamp went out.'));
    const clip = await bringIn('dark.mp4', short());
    expect(clip).toMatchObject({ state: 'failed', problem: expect.stringContaining('The lamp went out.') });
    expect(server.complaints.splice(0).map(({ message }) => message)).toEqual(['The lamp went out.']);
    expect((await server.call('POST', `/api/clips/${clip.id}/prepare`)).statusCode).toBe(202);
    await server.runJobs();
    expect((await clips())[0].state).toBe('ready');
    expect((await server.call('POST', `/api/clips/${clip.id}/prepare`)).statusCode).toBe(409);
  });
});

describe('the same content', () => {
  it('is prepared once by two workers, and both clips get it', async () => {
    const content = short(3);
    for (const name of ['first.mp4', 'second.mp4']) await server.upload(name, content);
    const other = new Locks(server.settings.database);
    const jobs = server.jobs.splice(0).map(({ job }) => (job as { clipId: string }).clipId);
    await Promise.all([
      prepareJob(server.tools, jobs[0], false),
      prepareJob({ ...server.tools, locks: other }, jobs[1], false),
    ]);
    await other.close();
    expect(making).toHaveBeenCalledTimes(1);
    const { clips: made, takes } = await server.production();
    expect(made.map(({ state }) => state)).toEqual(['ready', 'ready']);
    expect(takes.map(({ name }) => name).sort()).toEqual(['first · take 1', 'second · take 1']);
    // A third one later costs nothing.
    expect((await bringIn('third.mp4', content)).state).toBe('ready');
    expect(making).toHaveBeenCalledTimes(1);
  });

  it('is not believed when its files are not those that were finished', async () => {
    const content = short(2);
    const { id } = await bringIn('first.mp4', content);
    const { proxy } = clipFiles(server.settings.data, await hashOf(id));
    writeFileSync(proxy, readFileSync(proxy).subarray(0, 500));
    const again = await bringIn('again.mp4', content);
    expect(again.state).toBe('ready');
    expect(readFileSync(proxy).length).toBeGreaterThan(5000);
  });

  it('that arrives while it is deleted stays whole', async () => {
    const content = short();
    for (let i = 0; i < 12; i++) {
      const { id } = (await server.upload('old.mp4', content)).json() as ClipView;
      const [sent] = await Promise.all([
        server.upload('new.mp4', content),
        new Promise((resolve) => setTimeout(resolve, i * 2)).then(() => server.call('DELETE', `/api/clips/${id}`)),
      ]);
      const { id: kept } = sent.json() as ClipView;
      expect(existsSync(clipFiles(server.settings.data, await hashOf(kept)).original)).toBe(true);
      await server.call('DELETE', `/api/clips/${kept}`);
    }
  });
});

describe('preparing that breaks off', () => {
  it('is ended by deleting the clip, and leaves nothing', async () => {
    const { id } = (await server.upload('long.mp4', madeClip('long.mp4', pattern(20, '1280x720')))).json() as ClipView;
    const hash = await hashOf(id);
    const work = server.runJobs();
    await until(() => running(hash) > 0);
    const began = Date.now();
    await server.call('DELETE', `/api/clips/${id}`);
    await work;
    expect(Date.now() - began).toBeLessThan(3000);
    expect(running(hash)).toBe(0);
    expect(existsSync(clipFiles(server.settings.data, hash).folder)).toBe(false);
  });

  it('is taken up again when nobody works on it, and left alone while somebody does', async () => {
    const { id } = (await server.upload('left.mp4', short())).json() as ClipView;
    server.jobs.length = 0;
    await server.connection.pool.query("update clips set state = 'preparing' where id = $1", [id]);
    const elsewhere = new Locks(server.settings.database);
    await elsewhere.take('prepare', await hashOf(id));
    expect(await adoptOrphans(server.connection, server.queue)).toBe(0);
    await elsewhere.close();
    expect(await adoptOrphans(server.connection, server.queue)).toBe(1);
    await server.runJobs();
    expect((await clips())[0].state).toBe('ready');
    expect(await adoptOrphans(server.connection, server.queue)).toBe(0);
  });

  it('again and again is given up with a sentence', async () => {
    const { id } = (await server.upload('poison.mp4', short())).json() as ClipView;
    await server.connection.pool.query("update clips set state = 'preparing', tries = 12 where id = $1", [id]);
    await server.runJobs();
    expect((await clips())[0]).toMatchObject({
      state: 'failed',
      problem: expect.stringContaining('broke off 12 times'),
    });
  });

  it('is passed on to its own lane when it is long', async () => {
    await server.upload('long.mkv', timeBomb(400));
    const [{ job }] = server.jobs.splice(0);
    await prepareJob(server.tools, (job as { clipId: string }).clipId, false);
    expect(server.jobs).toMatchObject([{ name: 'prepareLong' }]);
    expect((await clips())[0].state).toBe('waiting');
  });

  it('leaves what is cleaned up at the start, but nothing that is alive', async () => {
    const { id } = await bringIn('kept.mp4', short());
    const { data } = server.settings;
    const { folder } = clipFiles(data, await hashOf(id));
    const stray = clipFiles(data, 'ab'.repeat(32));
    const dead = join(incomingFolder(data), 'dead-server');
    const alive = join(incomingFolder(data), 'test');
    for (const path of [join(folder, 'try-1'), stray.folder, dead, alive]) mkdirSync(path, { recursive: true });
    for (const path of [join(folder, 'try-1/proxy.mp4'), stray.original, join(dead, 'a'), join(alive, 'b')])
      writeFileSync(path, 'half');
    // Locks are those of another process.
    const other = new Locks(server.settings.database);
    expect(await cleanLeftovers(server.connection, other, data)).toBe(3);
    await other.close();
    expect(readdirSync(folder).sort()).toEqual(['original', 'prepared']);
    expect([existsSync(stray.folder), existsSync(dead), existsSync(join(alive, 'b'))]).toEqual([false, false, true]);
  });
});

describe('a full disk', () => {
  const { room } = { room: 400e6 };
  const fill = (full: boolean): void => void Object.assign(server.settings, { room: full ? 1e15 : room });
  afterEach(() => fill(false));

  it('is told with what is needed and where, and everything goes on by itself', async () => {
    fill(true);
    const refused = await server.upload('full.mp4', short());
    expect(refused.statusCode).toBe(507);
    expect(refused.json().error).toMatchObject({
      code: 'NO_ROOM',
      message: expect.stringContaining(server.settings.data),
    });
    expect(readdirSync(server.settings.data)).not.toContain('media/undefined');
    expect((await server.production()).trouble).toContain('must be free');
    fill(false);
    expect((await server.production()).trouble).toBeNull();
    const { id } = (await server.upload('full.mp4', short())).json() as ClipView;
    fill(true);
    await server.runJobs();
    expect((await clips())[0]).toMatchObject({ state: 'waiting', problem: expect.stringContaining('is full') });
    expect(readdirSync(clipFiles(server.settings.data, await hashOf(id)).folder)).toEqual(['original']);
    fill(false);
    expect(await adoptOrphans(server.connection, server.queue)).toBe(1);
    await server.runJobs();
    expect((await clips())[0]).toMatchObject({ state: 'ready', problem: null });
  });

  it('that is really full while a proxy is written is told in the same way', async () => {
    const { data } = server.settings;
    const disk = join(data, 'small-disk');
    const asRoot = (command: string, args: string[]): boolean => {
      try {
        execFileSync(command, args, { stdio: 'ignore' });
        return true;
      } catch {
        return false;
      }
    };
    mkdirSync(disk, { recursive: true });
    // Only root can make a small disk; elsewhere the reserve above stands for it.
    if (!asRoot('mount', ['-t', 'tmpfs', '-o', 'size=3m', 'tmpfs', disk])) return;
    try {
      fill(false);
      Object.assign(server.settings, { room: 0, data: disk });
      const noise = madeClip('noise.mp4', [
        ...['-f', 'lavfi', '-i', 'nullsrc=size=640x360:rate=25:duration=20,geq=random(1)*255:128:128'],
        ...['-crf', '51', '-pix_fmt', 'yuv420p'],
      ]);
      expect(noise.length).toBeLessThan(2_500_000);
      await server.upload('noise.mp4', noise);
      await server.runJobs();
      expect((await clips())[0]).toMatchObject({ state: 'waiting', problem: expect.stringContaining('is full') });
      const incoming = join(incomingFolder(disk), 'test');
      const larger = Buffer.alloc(4_000_000);
      expect((await server.upload('larger.mp4', larger)).json().error.code).toBe('NO_ROOM');
      // Nobody says beforehand how much comes.
      await expect(receiveFile(Readable.from([larger]), incoming, 0)).rejects.toThrow('is full');
      expect(readdirSync(incoming)).toEqual([]);
    } finally {
      Object.assign(server.settings, { data });
      asRoot('umount', [disk]);
    }
  });
});

async function until(test: () => boolean): Promise<void> {
  for (const deadline = Date.now() + 20_000; !test(); await new Promise((resolve) => setTimeout(resolve, 50)))
    if (Date.now() > deadline) throw new Error('Waited in vain.');
}

/** How many programs have a content in their arguments. */
function running(hash: string): number {
  return readdirSync('/proc').filter((name) => {
    try {
      return (
        /^\d+$/.test(name) && /ffmpeg.*HASH/.test(readFileSync(`/proc/${name}/cmdline`, 'utf8').replace(hash, 'HASH'))
      );
    } catch {
      return false;
    }
  }).length;
}
