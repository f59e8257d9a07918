import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { isSeen } from '@merry-shadow/core/observe/body';
import { workbench } from '../../test/workbench';
import { readFrames } from './frames';
import { FootageError, probeClip } from './probe';
import { trackSegment } from './track-segment';

/** Footage that people bring and that is not as it should be. */
const bench = workbench();
const { folder, make } = bench;

/** Tracks a whole clip. @returns for each frame whether somebody was seen. */
async function seenIn(path: string): Promise<boolean[]> {
  const { width, height, rate, frames } = await probeClip(path);
  const {
    observations: [seen],
  } = await trackSegment(bench.nets, {
    hands: false,
    face: false,
    warmUp: 0,
    width,
    height,
    rate,
    count: frames,
    frames: readFrames({ path, width, height, rate }),
  });
  return Array.from({ length: seen.frames }, (_, frame) => isSeen(seen, frame));
}

describe('odd but readable footage ends in a clear state', () => {
  it.each([
    ['black', 'black.mp4', ['-f', 'lavfi', '-i', 'color=c=black:s=320x180:r=10:d=0.5']],
    ['noise', 'noise.mp4', ['-f', 'lavfi', '-i', 'nullsrc=s=320x180:r=10:d=0.5,geq=random(1)*255:128:128']],
    ['a wrong ending', 'film.txt', ['-f', 'lavfi', '-i', 'color=c=gray:s=320x180:r=10:d=0.5', '-f', 'matroska']],
    ['very wide pictures', 'wide.mp4', ['-f', 'lavfi', '-i', 'testsrc2=s=2048x64:r=5:d=0.6']],
  ])('%s: nobody is seen', async (_, name, args) => {
    const seen = await seenIn(make(name, [...args]));
    expect(seen.length).toBeGreaterThan(1);
    expect(seen).not.toContain(true);
  });

  it('one single frame', async () => {
    expect(await seenIn(make('single.mp4', ['-i', 'demo/clips/flag-signals.mp4', '-frames:v', '1']))).toEqual([true]);
  });

  it('half a person: gaps or marks, but no crash', async () => {
    expect(
      await seenIn(
        make('half.mp4', ['-i', 'demo/clips/flag-signals.mp4', '-vf', 'crop=480:540:470:0', '-frames:v', '6']),
      ),
    ).toHaveLength(6);
  });

  it('8K pictures', async () => {
    const path = make('huge.mp4', ['-f', 'lavfi', '-i', 'color=c=gray:s=7680x4320:r=2:d=1', '-preset', 'ultrafast']);
    expect(await probeClip(path)).toMatchObject({ width: 7680, height: 4320 });
    let count = 0;
    for await (const picture of readFrames({ path, width: 1920, height: 1080, rate: 2 }))
      count += picture.width === 1920 ? 1 : 0;
    expect(count).toBe(2);
  });
});

describe('unreadable footage gets a sentence', () => {
  it.each([
    [
      '2 × 2 pixels',
      () => make('dot.mkv', ['-f', 'lavfi', '-i', 'color=c=red:s=2x2:r=10:d=1', '-c:v', 'ffv1']),
      'only 2 × 2 pixels',
    ],
    ['sound alone', () => make('wind.wav', ['-f', 'lavfi', '-i', 'anoisesrc=d=1']), /only sound|no video/],
    [
      'no rate at all',
      () => make('still.png', ['-f', 'lavfi', '-i', 'color=c=red:s=64x64', '-frames:v', '1']),
      /no video|rate|frames/,
    ],
  ])('%s', async (_, path, message) => {
    await expect(probeClip(path())).rejects.toBeInstanceOf(FootageError);
    await expect(probeClip(path())).rejects.toThrow(message);
  });
});

describe('damaged files', () => {
  /** A small repeatable generator, so that a failing file can be made again. */
  const random = (seed: number) => (): number => {
    seed = (seed * 1664525 + 1013904223) % 4294967296;
    return seed / 4294967296;
  };

  function damage(whole: Buffer, seed: number): Buffer {
    const next = random(seed);
    const bytes = Buffer.from(whole);
    const kind = seed % 4;
    if (kind === 0) return bytes.subarray(0, Math.floor(next() * bytes.length));
    if (kind === 1) for (let i = 0; i < 40; i++) bytes[Math.floor(next() * bytes.length)] = Math.floor(next() * 256);
    if (kind === 2)
      bytes.fill(0, Math.floor(next() * bytes.length * 0.6), Math.floor((0.6 + next() * 0.4) * bytes.length));
    if (kind === 3) for (let i = 0; i < 12; i++) bytes[Math.floor(next() * 2000)] ^= 1 << Math.floor(next() * 8);
    return bytes;
  }

  it.each(['mp4', 'mkv', 'avi'])('of the kind %s never crash or hang: frames, or a sentence', async (ending) => {
    const whole = readFileSync(
      make(`whole.${ending}`, ['-f', 'lavfi', '-i', 'testsrc2=s=192x108:r=10:d=2', '-g', '5']),
    );
    for (let seed = 1; seed <= 16; seed++) {
      const path = join(folder, `damaged-${seed}.${ending}`);
      writeFileSync(path, damage(whole, seed));
      try {
        const { width, height, rate } = await probeClip(path);
        let count = 0;
        for await (const picture of readFrames({ path, width, height, rate })) {
          expect(picture.data).toHaveLength(width * height * 3);
          if (++count > 200) break;
        }
        expect(count).toBeGreaterThan(0);
      } catch (error) {
        expect([seed, error instanceof FootageError, (error as Error).message.length > 10]).toEqual([seed, true, true]);
      }
    }
  });
});
