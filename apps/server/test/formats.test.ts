import { execFileSync } from 'node:child_process';
import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipView } from '@merry-shadow/contracts/clip';
import { clipFiles, incomingFolder } from '../src/media/media-folder';
import { ServerInProcess } from './in-process';
import { madeClip } from './made-clips';

/** Files as phones, cameras and the web have them. */
let server: ServerInProcess;
beforeAll(async () => {
  server = await ServerInProcess.start();
});
afterAll(() => server?.stop());

const film = (rate: number, size = '160x90', seconds = 1): string[] => [
  ...['-f', 'lavfi', '-i', `testsrc2=size=${size}:rate=${rate}:duration=${seconds}`],
];
const H264 = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p'];
const HEVC = ['-c:v', 'libx265', '-x265-params', 'log-level=error'];

async function broughtIn(name: string, content: Buffer, query = ''): Promise<ClipView> {
  const { id } = (await server.upload(name, content, query)).json() as ClipView;
  // What is looked at and lined up afterwards is another test's.
  await server.runJobs();
  const clip = (await server.production()).clips.find((item) => item.id === id);
  if (!clip) throw new Error(`${name} is not there.`);
  return clip;
}
/** Mean brightness of the prepared picture, 0 … 255, and the brightest part of it. */
function levels({ hash }: ClipView): { mean: number; most: number } {
  const { proxy } = clipFiles(server.settings.data, hash);
  const raw = execFileSync('ffmpeg', [
    ...['-hide_banner', '-loglevel', 'error', '-i', proxy, '-frames:v', '1'],
    ...['-vf', 'scale=16:9:flags=area,format=gray', '-f', 'rawvideo', 'pipe:1'],
  ]);
  return { mean: raw.reduce((sum, value) => sum + value, 0) / raw.length, most: Math.max(...raw) };
}

it.each<[string, string[], Partial<ClipView['facts'] & object>]>([
  [
    'phone.mov',
    [...film(30), ...HEVC, '-tag:v', 'hvc1', '-pix_fmt', 'yuv420p'],
    { codec: 'hevc', rate: 30, frames: 30 },
  ],
  ['ten-bit.mp4', [...film(25), ...HEVC, '-pix_fmt', 'yuv420p10le'], { codec: 'hevc', frames: 25 }],
  ['slow.mp4', [...film(240, '160x90', 0.5), ...H264], { rate: 240, frames: 120 }],
  ['film.mkv', [...film(24), '-f', 'lavfi', '-i', 'sine=duration=1', ...H264], { rate: 24, hasSound: true }],
  ['page.webm', [...film(30), '-c:v', 'libvpx-vp9', '-deadline', 'realtime'], { codec: 'vp9', frames: 30 }],
  ['old.avi', [...film(25), '-c:v', 'mpeg4'], { codec: 'mpeg4', frames: 25 }],
  ['moving.gif', [...film(20)], { codec: 'gif', frames: 20 }],
])('%s', async (name, make, facts) => {
  expect(await broughtIn(name, madeClip(name, make))).toMatchObject({
    state: 'ready',
    facts: { width: 160, height: 90, ...facts },
  });
});

it('a film whose frames lie unevenly in time is brought to a constant rate', async () => {
  const uneven = madeClip('uneven.mp4', [
    ...film(30, '160x90', 2),
    ...['-vf', 'select=not(eq(mod(n\\,4)\\,1))', '-fps_mode', 'vfr', ...H264],
  ]);
  const { facts } = await broughtIn('uneven.mp4', uneven);
  expect(facts?.seconds).toBeCloseTo(2, 0);
  expect(facts?.rate).toBeGreaterThan(20);
});

// Paper white (203 cd/m²) in each curve (ITU-R BT.2408), 10 bit in the limited range.
it.each([
  ['pq.mp4', 'smpte2084', 572],
  ['hlg.mp4', 'arib-std-b67', 721],
])('a film with a high dynamic range comes to the usual one: %s', async (name, transfer, white) => {
  const made = madeClip(name, [
    ...['-f', 'lavfi', '-i', 'color=gray:size=160x90:rate=25:duration=0.4,format=yuv420p10le'],
    ...['-vf', `geq=lum='if(lt(X,80),64,${white})':cb=512:cr=512`, ...HEVC, '-pix_fmt', 'yuv420p10le'],
    ...['-color_primaries', 'bt2020', '-color_trc', transfer, '-colorspace', 'bt2020nc'],
  ]);
  const clip = await broughtIn(name, made);
  expect(clip.state).toBe('ready');
  const { mean, most } = levels(clip);
  // White is bright and black is black: neither is grey.
  expect(most).toBeGreaterThan(165);
  expect(mean).toBeGreaterThan(0.4 * most);
  expect(mean).toBeLessThan(0.6 * most);
});

it('a folder of pictures becomes a clip of the rate that is asked for, known again when it comes again', async () => {
  const pictures = Buffer.concat(
    [0, 1, 2, 3, 4, 5].map((i) => madeClip(`${i}.png`, [...film(6), '-vf', `select=eq(n\\,${i})`, '-frames:v', '1'])),
  );
  const clip = await broughtIn('flag pictures', pictures, '?pictures=12');
  expect(clip).toMatchObject({ name: 'flag pictures', state: 'ready', facts: { rate: 12, frames: 6, width: 160 } });
  const again = await server.upload('the same', pictures, '?pictures=12&known=refuse');
  expect(again.json()).toMatchObject({ error: { code: 'KNOWN_FILE' } });
  // Neither the pictures nor the video that was made of them stays.
  expect(readdirSync(join(incomingFolder(server.settings.data), 'test'))).toEqual([]);
  const text = await server.upload('words', Buffer.from('no picture'), '?pictures=12');
  expect(text.json()).toMatchObject({ error: { message: expect.stringContaining('PNG and JPEG can') } });
});
