import { execFileSync } from 'node:child_process';
import { readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { convertNetwork } from '../convert/convert';
import { readTflite } from '../convert/tflite';
import { LEFT_EYE, LIPS, RIGHT_EYE } from '../face/face-parts';
import { readFaceGeometry } from './face-geometry';
import { CLIP, WALK, workbench } from '../../test/workbench';
import { readFrames } from './frames';
import { readSource, SOURCES } from './networks';
import { FootageError, probeClip } from './probe';
import { planSegments } from './segments';

const bench = workbench();
const { folder, make } = bench;

describe('probing', () => {
  it('tells size, rate, length and sound of an upright picture', async () => {
    expect(await probeClip(CLIP)).toMatchObject({
      width: 960,
      height: 540,
      rate: 30,
      frames: 300,
      hasSound: false,
      codec: 'h264',
    });
    const flat = make('flat.mp4', [
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=320x180:r=25:d=1',
      '-f',
      'lavfi',
      '-i',
      'sine=d=1',
      '-c:a',
      'aac',
    ]);
    const turned = join(folder, 'turned.mp4');
    execFileSync('ffmpeg', [
      '-y',
      '-loglevel',
      'error',
      '-i',
      flat,
      '-c',
      'copy',
      '-metadata:s:v',
      'rotate=90',
      turned,
    ]);
    expect(await probeClip(turned)).toMatchObject({ width: 180, height: 320, rate: 25, hasSound: true, rotation: 270 });
    const [first] = await take(readFrames({ path: turned, width: 180, height: 320, rate: 25 }), 1);
    expect([first.width, first.height]).toEqual([180, 320]);
  });

  it('tells the rate by the times of frames where they lie unevenly and the file says nothing, as browsers record', async () => {
    const path = make('uneven.webm', [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=30:d=3'],
      ...['-vf', "settb=1/1000,setpts='1000*(N+0.4*random(1))/30'", '-fps_mode', 'passthrough'],
      ...['-enc_time_base', '1/1000', '-c:v', 'libvpx'],
    ]);
    // The usual time between two frames, an element of Matroska, is made void.
    const bytes = readFileSync(path);
    const at = bytes.indexOf(Buffer.from([0x23, 0xe3, 0x83]));
    expect(at).toBeGreaterThan(0);
    bytes.set([0xec, 0x80 + 2 + (bytes[at + 3] & 0x7f)], at);
    writeFileSync(path, bytes);
    expect(await probeClip(path)).toMatchObject({ rate: 30, even: false, width: 160 });
  });

  it('tells the field of view from the lens that a file names, and nothing where it names none that can be', async () => {
    const lens = (name: string, value: string): string =>
      make(name, [
        '-f',
        'lavfi',
        '-i',
        'testsrc2=s=320x180:r=25:d=0.4',
        '-movflags',
        'use_metadata_tags',
        '-metadata',
        `camera.focal_length.35mm_equivalent=${value}`,
      ]);
    const { fieldOfView } = await probeClip(lens('wide.mov', '26'));
    // 43.27 mm across the diagonal of 16:9 are 37.7 across the long side.
    expect(fieldOfView).toBeCloseTo((2 * Math.atan(37.71 / 2 / 26) * 180) / Math.PI, 0);
    expect((await probeClip(lens('none.mov', 'unknown'))).fieldOfView).toBeNull();
    expect((await probeClip(lens('odd.mov', '0'))).fieldOfView).toBeNull();
    expect((await probeClip(CLIP)).fieldOfView).toBeNull();
  });

  it.each([
    ['empty.mp4', () => Buffer.alloc(0), 'empty'],
    ['words.mp4', () => Buffer.from('this is no video, '.repeat(200)), 'no video that can be read'],
    ['cut.mp4', () => readFileSync(CLIP).subarray(200_000), 'no video that can be read'],
  ])('refuses %s with a sentence', async (name, content, message) => {
    writeFileSync(join(folder, name), content());
    await expect(probeClip(join(folder, name))).rejects.toThrow(message);
    await expect(probeClip(join(folder, name))).rejects.toBeInstanceOf(FootageError);
  });

  it('refuses sound alone, a tiny picture, a folder and nothing', async () => {
    await expect(probeClip(make('sound.m4a', ['-f', 'lavfi', '-i', 'sine=d=1']))).rejects.toThrow('only sound');
    await expect(probeClip(make('tiny.mp4', ['-f', 'lavfi', '-i', 'testsrc2=s=16x16:r=25:d=1']))).rejects.toThrow(
      'only 16 × 16 pixels',
    );
    await expect(probeClip(folder)).rejects.toThrow('a folder');
    await expect(probeClip(join(folder, 'nothing'))).rejects.toThrow('not there');
  });

  it('does not follow a playlist to other files', async () => {
    writeFileSync(join(folder, 'list.mp4'), `#EXTM3U\n#EXTINF:1,\nfile://${process.cwd()}/${CLIP}\n`);
    await expect(probeClip(join(folder, 'list.mp4'))).rejects.toBeInstanceOf(FootageError);
    writeFileSync(join(folder, 'concat.mp4'), `ffconcat version 1.0\nfile '${process.cwd()}/${CLIP}'\n`);
    await expect(probeClip(join(folder, 'concat.mp4'))).rejects.toBeInstanceOf(FootageError);
  });
});

async function take<T>(items: AsyncIterable<T>, count: number): Promise<T[]> {
  const out: T[] = [];
  for await (const item of items) if (out.push(item) >= count) break;
  return out;
}

describe('networks', () => {
  it('are exactly the pinned ones', async () => {
    const bytes = await readSource('bodyDetector');
    expect(readTflite(bytes).operators.length).toBeGreaterThan(100);
    const kept = SOURCES.bodyDetector.sha256;
    SOURCES.bodyDetector.sha256 = kept.replace(/^./, 'x');
    await expect(readSource('bodyDetector')).rejects.toThrow('not the expected one');
    SOURCES.bodyDetector.sha256 = kept;
  });

  it('give the same on the native and on the wasm runtime', () => {
    const worst = JSON.parse(
      execFileSync(process.execPath, ['--import', 'tsx', 'packages/tracker/test/compare-runtimes.ts'], {
        encoding: 'utf8',
      }),
    ) as Record<string, number>;
    expect(Object.keys(worst)).toHaveLength(20);
    for (const [output, apart] of Object.entries(worst)) expect([output, apart < 3e-5]).toEqual([output, true]);
  });

  it('name what can not be converted', async () => {
    expect(() => convertNetwork(new Uint8Array(100), [0])).toThrow('no TFLite network');
    const whole = readFileSync(join('node_modules/@mediapipe/holistic', SOURCES.bodyDetector.file)).subarray(
      1490304,
      3986256,
    );
    expect(() => convertNetwork(whole, [720])).toThrow(/can't be converted/);
    const cut = (await readSource('bodyMarks')).slice(0, 300_000);
    expect(() => convertNetwork(cut, SOURCES.bodyMarks.outputs)).toThrow();
  });
});

describe('frames', () => {
  const sums = async (source: Parameters<typeof readFrames>[0]): Promise<number[]> => {
    const out: number[] = [];
    for await (const { data } of readFrames(source))
      out.push(data.reduce((sum, value, i) => (sum + value * (i % 251)) % 1e9, 0));
    return out;
  };

  it('are the same whether sought, cut out or read from the start', async () => {
    const all = await sums({ ...WALK, count: 75 });
    expect(all).toHaveLength(75);
    expect(new Set(all).size).toBeGreaterThan(70);
    for (const first of [1, 30, 44, 59]) {
      const wanted = all.slice(first, first + 6);
      expect(await sums({ ...WALK, first, count: 6 })).toEqual(wanted);
      expect(await sums({ ...WALK, even: false, first, count: 6 })).toEqual(wanted);
    }
  });

  it('keep true time where the footage has an uneven rate', async () => {
    // Frames at 0, 1/25, 2/25 … with every third one left out.
    const uneven = make('uneven.mkv', [
      '-f',
      'lavfi',
      '-i',
      'testsrc2=s=160x90:r=25:d=2',
      '-vf',
      "select='mod(n,3)'",
      '-fps_mode',
      'vfr',
    ]);
    const facts = await probeClip(uneven);
    expect(facts.seconds).toBeCloseTo(2, 0);
    const frames = await sums({ path: uneven, width: 160, height: 90, rate: 25 });
    expect(frames.length / 25).toBeCloseTo(facts.seconds, 0);
  });
});

describe('segments', () => {
  it.each([1, 59, 119, 120, 270, 599, 600, 9001])('cover %d frames once, in order', (frames) => {
    const segments = planSegments(frames);
    expect(segments[0].first).toBe(0);
    segments.forEach((segment, i) => expect(segment.first + segment.frames).toBe(segments[i + 1]?.first ?? frames));
    expect(segments.length > 1).toBe(frames >= 120);
  });
});

describe('the parts of the face', () => {
  it('are the ones that the network itself names', async () => {
    const { operators } = readTflite(await readSource('faceMarks'));
    const named = operators
      .filter((op) => op.kind === 'Landmarks2TransformMatrix')
      .map(({ custom }) => {
        const bytes = Buffer.from(custom);
        const at = bytes.indexOf('subset_idxs\0') + 12;
        return Array.from({ length: bytes.readUInt16LE(at) }, (_, i) => bytes.readUInt16LE(at + 2 + 2 * i));
      });
    expect(named).toEqual([LIPS.indices, RIGHT_EYE.indices, LEFT_EYE.indices]);
  });

  it('and the average face with its weights are read from the pinned geometry', async () => {
    const { vertices, basis } = await readFaceGeometry();
    expect(vertices).toHaveLength(468 * 3);
    expect(basis).toHaveLength(33);
    // The performer's right eye lies at x < 0, mirrored by the left.
    expect(vertices[33 * 3]).toBeLessThan(0);
    expect(vertices[33 * 3] + vertices[263 * 3]).toBeCloseTo(0, 3);
  });
});
