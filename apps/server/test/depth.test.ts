import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DepthRig } from '@merry-shadow/core/camera/depth-rig';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { ServerInProcess } from './in-process';

/** A recording of a depth device: colour and millimetres in one file, with how both cameras lie to each other. */
let server: ServerInProcess;
beforeAll(async () => {
  server = await ServerInProcess.start();
});
afterAll(() => server?.stop());

/** The depth camera stands 5 cm to the right, sees wider, and has fewer pixels and frames. */
const rig: DepthRig = {
  colour: { width: 960, height: 540, fx: 942, fy: 942, cx: 480, cy: 270 },
  depth: { width: 320, height: 240, fx: 250, fy: 250, cx: 160, cy: 120 },
  turn: [1, 0, 0, 0, 1, 0, 0, 0, 1],
  shift: [0.05, 0, 0],
};

/** The keeper's signals before a depth that is the same everywhere, millimetres. */
function recording(millimetres: number, tags: string[]): Buffer {
  const folder = mkdtempSync(join(tmpdir(), 'merry-depth-'));
  try {
    const path = join(folder, 'recording.mkv');
    execFileSync('ffmpeg', [
      ...['-hide_banner', '-loglevel', 'error', '-y', '-t', '1', '-i', 'demo/clips/flag-signals.mp4'],
      ...['-f', 'lavfi', '-i', 'color=black:size=320x240:rate=15:duration=1,format=gray16le'],
      ...['-filter_complex', `[1:v]geq=lum=${millimetres},format=gray16le[depth]`, '-map', '0:v', '-map', '[depth]'],
      ...['-c:v:0', 'libx264', '-c:v:1', 'ffv1', ...tags, path],
    ]);
    return readFileSync(path);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

it('is brought in, tracked with its depth, and tells its lens', async () => {
  await server.upload('signals.mkv', recording(4200, ['-metadata', `DEPTH_RIG=${JSON.stringify(rig)}`]));
  await server.runJobs();
  const { clips, takes } = await server.production();
  expect(clips[0]).toMatchObject({
    state: 'ready',
    facts: { hasDepth: true, codec: 'h264', width: 960, fieldOfView: 54 },
  });
  const [take] = takes;
  await server.call('PATCH', `/api/takes/${take.id}`, { untilFrame: 12, settings: { hands: false, face: false } });
  await server.call('POST', `/api/takes/${take.id}/capture`);
  await server.runJobs();
  const answer = await server.call('GET', `/api/takes/${take.id}/observations?groups=body,depth`);
  const { depth, frames } = observationsFromBytes(new Uint8Array(answer.rawPayload));
  expect(frames).toBe(12);
  // The same depth everywhere is the same for both cameras, which are not turned to each other.
  for (const mark of [MARK.leftHip, MARK.rightShoulder, MARK.nose])
    for (const frame of [0, 5, 11]) expect(depth?.[frame * MARK_COUNT + mark]).toBeCloseTo(4.2, 2);
}, 120_000);

it('without a word of how its cameras lie is taken for what it shows', async () => {
  await server.upload('untold.mkv', recording(4200, []));
  await server.runJobs();
  const clip = (await server.production()).clips.find(({ name }) => name === 'untold.mkv');
  expect(clip).toMatchObject({ state: 'ready', facts: { hasDepth: false, codec: 'h264' } });
});

describe('a clip and its depth as two files', () => {
  const parts = (shape: string): [Buffer, Buffer] => {
    const folder = mkdtempSync(join(tmpdir(), 'merry-depth-'));
    const plain = ['-hide_banner', '-loglevel', 'error', '-y'];
    try {
      const [clip, depth] = [join(folder, 'clip.mp4'), join(folder, 'clip.depth.mkv')];
      execFileSync('ffmpeg', [...plain, '-t', '1', '-i', 'demo/clips/flag-signals.mp4', '-c', 'copy', clip]);
      const grey = `color=black:size=${shape}:rate=30:duration=1,format=gray16le,geq=lum=3100,format=gray16le`;
      execFileSync('ffmpeg', [...plain, '-f', 'lavfi', '-i', grey, '-c:v', 'ffv1', depth]);
      return [readFileSync(clip), readFileSync(depth)];
    } finally {
      rmSync(folder, { recursive: true, force: true });
    }
  };

  it('becomes one clip that is tracked with depth', async () => {
    const [clip, depth] = parts('480x270');
    const answer = await server.upload('both.mp4', Buffer.concat([clip, depth]), `?depthFrom=${clip.length}`);
    expect(answer.statusCode).toBe(201);
    await server.runJobs();
    const { clips, takes } = await server.production();
    const made = clips.find(({ name }) => name === 'both.mp4');
    expect(made).toMatchObject({ state: 'ready', facts: { hasDepth: true, width: 960 } });
    const take = takes.find(({ clipId }) => clipId === made?.id);
    await server.call('PATCH', `/api/takes/${take?.id}`, { untilFrame: 6, settings: { hands: false, face: false } });
    await server.call('POST', `/api/takes/${take?.id}/capture`);
    await server.runJobs();
    const seen = await server.call('GET', `/api/takes/${take?.id}/observations?groups=body,depth`);
    const observations = observationsFromBytes(new Uint8Array(seen.rawPayload));
    expect(observations.depth?.[5 * MARK_COUNT + MARK.leftHip]).toBeCloseTo(3.1, 2);
  }, 120_000);

  it('is refused where they do not belong together', async () => {
    const [clip, depth] = parts('300x300');
    const answer = await server.upload('both.mp4', Buffer.concat([clip, depth]), `?depthFrom=${clip.length}`);
    expect(answer.json()).toMatchObject({ error: { message: expect.stringContaining('another shape') as unknown } });
    const none = await server.upload('both.mp4', clip, `?depthFrom=${clip.length}`);
    expect(none.json()).toMatchObject({
      error: { message: expect.stringContaining('one of them is missing') as unknown },
    });
  });
});
