import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { emptyBodyObservations } from '@merry-shadow/core/observe/body';
import { emptyFaceObservations } from '@merry-shadow/core/observe/face';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { judgeFootage } from '@merry-shadow/core/judge/registry';
import { frameChanges } from '../looks/frame-changes';
import { joinPictures } from './join-pictures';
import { readKeyFrames } from './key-frames';
import { lookAtClip } from './look-at-clip';
import { openNets } from './open-nets';
import { probeClip } from './probe';
import { proxyArguments, proxySize } from './proxy';
import { readMouth } from './read-mouth';
import { loudness, readSound, SOUND_RATE } from './read-sound';

/** A clip on its way to being judged: prepared, its key frames and sound read, looked at. */
const folder = mkdtempSync(join(tmpdir(), 'merry-looking-'));
afterAll(() => rmSync(folder, { recursive: true }));
const at = (name: string): string => join(folder, name);
const ffmpeg = (...args: string[]): void =>
  void execFileSync('ffmpeg', ['-hide_banner', '-loglevel', 'error', '-y', ...args]);

async function prepare(path: string): Promise<{ proxy: string; small: string }> {
  const into = { proxy: at('proxy.mp4'), small: at('small.gray16') };
  ffmpeg(...proxyArguments(path, await probeClip(path), into, 10_000));
  return into;
}

it('a picture is prepared in an even size that keeps its shape', () => {
  expect(proxySize(3840, 2160)).toEqual({ width: 1920, height: 1080 });
  expect(proxySize(1080, 2400)).toEqual({ width: 864, height: 1920 });
  expect(proxySize(321, 181)).toEqual({ width: 322, height: 182 });
});

describe('a prepared clip', () => {
  // Two sceneries, the first for 1.2 s; a tone that sounds from 0.5 to 1 s.
  beforeAll(() =>
    ffmpeg(
      ...['-f', 'lavfi', '-i', 'testsrc2=size=320x180:rate=25:duration=1.2'],
      ...['-f', 'lavfi', '-i', 'mandelbrot=size=320x180:rate=25:end_pts=400'],
      ...['-f', 'lavfi', '-i', 'aevalsrc=0.5*sin(2*PI*440*t)*between(t\\,0.5\\,1):d=2.4:s=16000'],
      ...['-filter_complex', '[1:v]trim=duration=1.2,setpts=PTS-STARTPTS[b];[0:v][b]concat=n=2:v=1[v]'],
      ...['-map', '[v]', '-map', '2:a', '-pix_fmt', 'yuv420p', at('clip.mp4')],
    ),
  );

  it('tells a mouth by its sound where the face was not seen, and not at all where it was', async () => {
    const body = emptyBodyObservations(60, 25, 320, 180);
    const face = emptyFaceObservations(60);
    const told = await readMouth(at('clip.mp4'), 0, { ...body, face } as Observations);
    expect(told).toHaveLength(60);
    for (const value of told ?? []) expect(value >= 0 && value <= 1).toBe(true);
    face.presence.fill(1);
    expect(await readMouth(at('clip.mp4'), 0, { ...body, face } as Observations)).toBeUndefined();
    expect(await readMouth(at('clip.mp4'), 0, body as Observations)).toBeUndefined();
    ffmpeg('-i', at('clip.mp4'), '-an', '-c:v', 'copy', at('mute.mp4'));
    face.presence.fill(0);
    expect(await readMouth(at('mute.mp4'), 0, { ...body, face } as Observations)).toBeUndefined();
  });

  it('has a small picture of each frame, which tell its cut', async () => {
    const { proxy, small } = await prepare(at('clip.mp4'));
    expect(await probeClip(proxy)).toMatchObject({ width: 320, height: 180, frames: 60, hasSound: true });
    expect(frameChanges(await readFile(small), 25)).toEqual({ cuts: [30], doubled: 0 });
  });

  it('gives some of its key frames, each with its number', async () => {
    const { proxy } = await prepare(at('clip.mp4'));
    const clip = { path: proxy, width: 320, height: 180, rate: 25, frames: 60 };
    const read = async (wanted: number): Promise<number[]> => {
      const numbers: number[] = [];
      for await (const { picture, frame } of readKeyFrames(clip, wanted)) {
        expect(picture.data).toHaveLength(320 * 180 * 3);
        numbers.push(frame);
      }
      return numbers;
    };
    const all = await read(100);
    // Every eighth frame at least, and the one with which the other scenery begins.
    expect(all[0]).toBe(0);
    expect(Math.max(...all.slice(1).map((frame, i) => frame - all[i]))).toBeLessThanOrEqual(8);
    expect(all).toContain(30);
    const some = await read(4);
    expect(some.length).toBeLessThanOrEqual(5);
    expect(some.every((frame) => all.includes(frame))).toBe(true);
  });

  it('is heard when it is loud', async () => {
    const peaks = await loudness(at('clip.mp4'));
    expect(peaks.length).toBeGreaterThan(235);
    expect(Math.max(...peaks.slice(5, 48))).toBeLessThan(12);
    expect(Math.min(...peaks.slice(52, 98))).toBeGreaterThan(115);
    let samples = 0;
    for await (const block of readSound(at('clip.mp4'))) samples += block.length;
    expect(samples / SOUND_RATE).toBeCloseTo(2.4, 1);
  });

  it('without sound is silent', async () => {
    ffmpeg('-i', at('clip.mp4'), '-an', '-c', 'copy', at('mute.mp4'));
    expect(await loudness(at('mute.mp4'))).toHaveLength(0);
  });
});

it('a clip of the demo is judged as it is: whole, sharp, steady, alone, and too far away for a face', async () => {
  const { proxy, small } = await prepare('demo/clips/flag-signals.mp4');
  const { bitsPerPixel } = await probeClip('demo/clips/flag-signals.mp4');
  const { width, height, rate, frames } = await probeClip(proxy);
  const nets = await openNets('.data/networks');
  const looks = await lookAtClip(nets, { path: proxy, small, width, height, rate, frames, bitsPerPixel });
  expect(looks.at.length).toBeGreaterThanOrEqual(9);
  expect(looks.tall.every((pixels) => pixels !== null && pixels > 380 && pixels < 460)).toBe(true);
  expect(new Set(looks.people)).toEqual(new Set([1]));
  expect(looks.pose[0]).toBe(1);
  expect(looks.camera.every((speed) => speed === 0)).toBe(true);
  expect(judgeFootage(looks).map(({ kind }) => kind)).toEqual(['face']);
});

describe('pictures one behind the other', () => {
  const picture = (name: string, seconds: string): Promise<Buffer> => {
    ffmpeg('-ss', seconds, '-f', 'lavfi', '-i', 'testsrc2=size=96x64:rate=10', '-frames:v', '1', at(name));
    return readFile(at(name));
  };

  it.each(['png', 'jpg'])('become a film of their rate: %s', async (kind) => {
    const all = await Promise.all(['0', '0.5', '1'].map((seconds, i) => picture(`${i}.${kind}`, seconds)));
    writeFileSync(at('all'), Buffer.concat(all));
    await joinPictures(at('all'), 8, at('joined.mkv'));
    expect(await probeClip(at('joined.mkv'))).toMatchObject({ width: 96, height: 64, rate: 8, frames: 3 });
  });

  it('of another kind are told', async () => {
    writeFileSync(at('words'), 'no picture at all');
    await expect(joinPictures(at('words'), 8, at('never.mkv'))).rejects.toThrow('PNG and JPEG can');
  });
});
