import { execFileSync } from 'node:child_process';
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { jointPixel, measureMarks, nearestPeople } from '@merry-shadow/core/measure/measure-marks';
import { readTruth } from '@merry-shadow/core/measure/truth';
import { isSeen, MARK, MARK_COUNT, type MarkName } from '@merry-shadow/core/observe/body';
import { FACE_MARK_COUNT, LEFT_IRIS, RIGHT_IRIS } from '@merry-shadow/core/observe/face';
import { joinChunks, type ObservationChunk } from '@merry-shadow/core/observe/observations';
import type { Person } from '../people/associate';
import { guideFor } from '../people/guide';
import { findPeople } from './find-people';
import { CLIP, WALK, workbench } from '../../test/workbench';
import { pngFiles, readFrames, readPngFrames } from './frames';
import { pngSize } from './probe';
import { trackClip } from './track-clip';
import { TrackPool } from './track-pool';
import { trackSegment, type SegmentResult } from './track-segment';

const bench = workbench();
const { folder, make } = bench;

const BODY = { hands: false, face: false, warmUp: 0, rate: 30, width: 960, height: 540 };

describe('tracking the demo clip', () => {
  const truth = readTruth(readFileSync('demo/clips/walk-the-planks.truth.json', 'utf8'));
  let whole: SegmentResult;
  const pixelOf = (frame: number, joint: string): number[] => jointPixel(truth, frame, joint);

  it('finds the performer at once with a score of 0.95 or more and never loses them', async () => {
    whole = await trackSegment(bench.nets, { ...BODY, frames: readFrames({ ...WALK, count: 130 }), count: 130 });
    expect(whole.observations[0].frames).toBe(130);
    expect(whole.detections).toHaveLength(1);
    expect(whole.detections[0]).toBeGreaterThan(0.95);
  });

  it('puts its marks where the joints are, left on the left', () => {
    const [seen] = whole.observations;
    const pairs: [MarkName, string][] = [
      ['leftShoulder', 'leftUpperArm'],
      ['rightShoulder', 'rightUpperArm'],
      ['leftElbow', 'leftLowerArm'],
      ['rightWrist', 'rightHand'],
      ['leftKnee', 'leftLowerLeg'],
      ['rightKnee', 'rightLowerLeg'],
    ];
    for (const [mark, joint] of pairs) {
      let error = 0;
      for (let f = 0; f < seen.frames; f++) {
        expect(isSeen(seen, f)).toBe(true);
        const [x, y] = pixelOf(f, joint);
        const at = (f * MARK_COUNT + MARK[mark]) * 3;
        error += Math.hypot(seen.marks[at] - x, seen.marks[at + 1] - y) / seen.frames;
      }
      expect(error).toBeLessThan(9);
    }
  });

  it('sees hands and face where they are, each with its confidence', async () => {
    const pool = new TrackPool('.data/networks', 1);
    const pieces: ObservationChunk[] = [];
    await trackClip(pool, {
      source: { ...WALK, count: 50 },
      hands: true,
      face: true,
      onPiece: (piece) => void pieces.push(piece),
    });
    await pool.close();
    const seen = joinChunks(pieces);
    const { face, frames } = seen;
    const { handsSeen, handErrorPx } = measureMarks(seen, truth);
    expect(handsSeen.left + handsSeen.right).toBeGreaterThan(frames * 2 * 0.85);
    expect(handErrorPx).toBeLessThan(7);
    expect(face?.presence.filter((value) => value > 0.6).length).toBe(frames);
    const head = pixelOf(20, 'head');
    const nose = (20 * FACE_MARK_COUNT + 1) * 3;
    expect(Math.hypot((face?.marks[nose] ?? 0) - head[0], (face?.marks[nose + 1] ?? 0) - head[1])).toBeLessThan(15);
    // The apprentice looks ahead, so the irises lie between the corners of the eyes.
    for (const [iris, outer, inner] of [
      [RIGHT_IRIS, 33, 133],
      [LEFT_IRIS, 263, 362],
    ]) {
      const x = (mark: number): number => face?.marks[(20 * FACE_MARK_COUNT + mark) * 3] ?? NaN;
      expect((x(iris) - x(outer)) / (x(inner) - x(outer))).toBeGreaterThan(0.2);
      expect((x(iris) - x(outer)) / (x(inner) - x(outer))).toBeLessThan(0.8);
    }
  });

  it('joins segments so that the seam is no worse than the shake of a still figure', async () => {
    const pool = new TrackPool('.data/networks', 2);
    const pieces: ObservationChunk[] = [];
    let told = 0;
    await trackClip(pool, {
      source: { ...WALK, count: 130 },
      hands: false,
      face: false,
      onProgress: (done) => (told = done),
      onPiece: (piece) => void pieces.push(piece),
    });
    await pool.close();
    expect(pieces.map((piece) => piece.first).sort((a, b) => a - b)).toEqual([0, 65]);
    expect(told).toBe(64 + 64);
    const joined = joinChunks(pieces);
    const [{ marks }] = whole.observations;
    const meanApart = (from: number, until: number): number => {
      const apart: number[] = [];
      for (let i = from * 99; i < until * 99; i += 3)
        if (marks[i + 2] > 0.8) apart.push(Math.hypot(joined.marks[i] - marks[i], joined.marks[i + 1] - marks[i + 1]));
      return apart.reduce((sum, value) => sum + value, 0) / apart.length;
    };
    expect(meanApart(0, 65)).toBe(0);
    expect(meanApart(65, 70)).toBeLessThan(0.6);
    expect(meanApart(70, 130)).toBeLessThan(0.25);
  });

  it('ends its threads in the middle of their work and the process with 0', async () => {
    const program = `
      import { TrackPool } from './packages/tracker/src/node/track-pool';
      const pool = new TrackPool('.data/networks', 2);
      const source = { path: ${JSON.stringify(WALK.path)}, width: 960, height: 540, rate: 30 };
      const job = { source, segment: { first: 0, frames: 130 }, warmUp: 0, hands: false, face: false, everyFrames: 1 };
      let done = 0;
      await new Promise((resolve) => {
        for (const _ of [1, 2]) void pool.track(job as never, () => ++done > 15 && resolve(0));
      });
      await pool.close();`;
    writeFileSync(join(folder, 'close.mts'), program.replace("'./packages", `'${process.cwd()}/packages`));
    for (let round = 0; round < 3; round++) execFileSync('node', ['--import', 'tsx', join(folder, 'close.mts')]);
  });

  it('gives the same marks from PNG frames, bit by bit between runs', async () => {
    const pngs = join(folder, 'frames');
    mkdirSync(pngs);
    execFileSync('ffmpeg', ['-loglevel', 'error', '-i', CLIP, '-frames:v', '12', join(pngs, 'frame-%d.png')]);
    const files = await pngFiles(pngs);
    expect(files[9]).toMatch(/frame-10\.png$/);
    expect(await pngSize(files[0])).toEqual({ width: 960, height: 540 });
    const once = async () =>
      (await trackSegment(bench.nets, { ...BODY, frames: readPngFrames(files, 960, 540), count: 12, plain: true }))
        .observations[0];
    const [a, b] = [await once(), await once()];
    expect(a.frames).toBe(12);
    expect(a).toEqual(b);
    mkdirSync(join(folder, 'nothing-in-it'));
    await expect(pngFiles(join(folder, 'nothing-in-it'))).rejects.toThrow('no PNG pictures');
  });

  it('reports an empty stage as a gap', async () => {
    const empty = make('empty-stage.mp4', ['-f', 'lavfi', '-i', 'color=c=gray:s=320x240:r=10:d=1']);
    const {
      observations: [observations],
    } = await trackSegment(bench.nets, {
      ...BODY,
      rate: 10,
      width: 320,
      height: 240,
      frames: readFrames({ path: empty, width: 320, height: 240, rate: 10 }),
      count: 10,
    });
    expect(observations.frames).toBe(10);
    expect(Array.from({ length: 10 }, (_, f) => isSeen(observations, f))).not.toContain(true);
  });

  it('stops at once when it is told to', async () => {
    const stop = new AbortController();
    const {
      observations: [observations],
    } = await trackSegment(bench.nets, {
      ...BODY,
      frames: readFrames(WALK, stop.signal),
      count: 300,
      signal: stop.signal,
      onFrame: (done) => done === 5 && stop.abort(),
    });
    expect(observations.frames).toBeLessThan(9);
  });
});

describe('several people', () => {
  const truths = ['apprentice', 'keeper'].map((name) =>
    readTruth(readFileSync(`demo/clips/rope-haul.${name}.truth.json`, 'utf8')),
  );
  const source = { ...WALK, path: 'demo/clips/rope-haul.mp4', first: 45, count: 110 };
  let people: Person[];

  it('are found and told apart through a crossing', async () => {
    people = await findPeople(bench.nets, source);
    expect(people.length).toBe(2);
    for (const person of people) expect(person.sightings.length).toBeGreaterThan(9);
  });

  it('four at once, in one single frame', async () => {
    const script = join(folder, 'four.json');
    const performers = [-1.8, -0.6, 0.6, 1.8].map((x, i) => ({
      name: `p${i}`,
      look: { shirt: ['#b1442f', '#d9a430', '#3f6f8f', '#4f7350'][i] },
      moves: { place: [x, 0] },
    }));
    writeFileSync(
      script,
      JSON.stringify({
        name: 'four',
        seconds: 0.1,
        rate: 10,
        camera: { position: [0, 1.35, 6], fieldOfView: 52 },
        performers,
      }),
    );
    execFileSync(process.execPath, ['--import', 'tsx', 'apps/cli/src/main.ts', 'synth', script, '--to', folder], {
      env: { ...process.env, MERRY_SHADOW_ROOT: process.cwd() },
    });
    const seen = await findPeople(bench.nets, { ...WALK, rate: 10, path: join(folder, 'four.mp4'), count: 1 });
    const places = seen.map(({ sightings }) => Math.round(sightings[0].hip[0])).sort((a, b) => a - b);
    expect(places).toHaveLength(4);
    places.forEach((x, i) => expect(Math.abs(x - (480 + [-1.8, -0.6, 0.6, 1.8][i] * 163))).toBeLessThan(25));
  });

  it('are tracked in one reading without ever being taken for each other', async () => {
    const { observations } = await trackSegment(bench.nets, {
      ...BODY,
      frames: readFrames(source),
      count: source.count,
      firstFrame: source.first,
      guides: people.map((_, i) => guideFor(people, i)),
    });
    const nearest = observations.map((seen) => nearestPeople(seen, truths, source.first));
    // Each is one person throughout, each another, and seen but for the moment behind the other.
    for (const counts of nearest) expect(Math.min(...counts)).toBe(0);
    expect(nearest[0].indexOf(0)).not.toBe(nearest[1].indexOf(0));
    for (const counts of nearest) expect(Math.max(...counts)).toBeGreaterThan(source.count * 0.7);
  });
});

describe('performers that are hard to see', () => {
  const shrunk = (part: number): string => {
    // The demo performer stands 0.37 of the picture's long side high.
    const width = Math.round((960 * part) / 0.37 / 2) * 2;
    return make(`small-${part}.mp4`, [
      '-i',
      'demo/clips/flag-signals.mp4',
      '-vf',
      `scale=${width}:-2,pad=960:540:${Math.round((960 - width) * 0.7)}:200:color=0x8899a0`,
      '-frames:v',
      '20',
      '-crf',
      '16',
    ]);
  };

  it.each([0.3, 0.18, 0.12])('are found and tracked at %d of the long side', async (part) => {
    const {
      observations: [seen],
    } = await trackSegment(bench.nets, { ...BODY, frames: readFrames({ ...WALK, path: shrunk(part) }), count: 20 });
    expect(Array.from({ length: 20 }, (_, f) => isSeen(seen, f)).filter(Boolean).length).toBeGreaterThan(18);
  });

  it('are let go at a hard cut and found again in the next picture', async () => {
    const left = ['-i', CLIP, '-vf', 'crop=520:540:0:0,pad=960:540:0:0', '-frames:v', '15'];
    const parts = [
      make('cut-a.mp4', left),
      make('cut-b.mp4', ['-ss', '8', '-i', CLIP, '-vf', 'negate,hflip', '-frames:v', '15']),
    ];
    const both = join(folder, 'cut-both.mp4');
    execFileSync('ffmpeg', [
      '-y',
      '-loglevel',
      'error',
      '-i',
      parts[0],
      '-i',
      parts[1],
      '-filter_complex',
      '[0][1]concat=n=2:v=1',
      both,
    ]);
    const result = await trackSegment(bench.nets, { ...BODY, frames: readFrames({ ...WALK, path: both }), count: 30 });
    expect(result.detections.length).toBeGreaterThanOrEqual(2);
    expect(isSeen(result.observations[0], 12)).toBe(true);
  });

  it('are seen in pictures that a recorder doubled, which are told as such', async () => {
    // From 3 s on she walks: twelve pictures, each twice.
    const doubled = make('doubled.mp4', [
      '-ss',
      '3',
      '-i',
      CLIP,
      '-vf',
      'fps=15,fps=30',
      '-frames:v',
      '24',
      '-crf',
      '16',
    ]);
    const {
      observations: [seen],
    } = await trackSegment(bench.nets, { ...BODY, frames: readFrames({ ...WALK, path: doubled }), count: 24 });
    const told = [...seen.skipped.keys()].filter((frame) => seen.skipped[frame]);
    expect(told.length).toBeGreaterThanOrEqual(9);
    expect(new Set(told.map((frame) => frame % 2)).size).toBe(1);
    for (const frame of told) expect(isSeen(seen, frame)).toBe(true);
    expect(seen.cut.some((value) => value > 0)).toBe(false);
  });

  it('are taken up again after they left the picture', async () => {
    const gone = make('gone.mp4', [
      '-i',
      'demo/clips/flag-signals.mp4',
      '-vf',
      "drawbox=enable='between(n,10,24)':w=iw:h=ih:t=fill:c=0x8899a0",
      '-frames:v',
      '40',
      '-crf',
      '16',
    ]);
    const {
      observations: [seen],
    } = await trackSegment(bench.nets, { ...BODY, frames: readFrames({ ...WALK, path: gone }), count: 40 });
    expect([5, 17, 30].map((f) => isSeen(seen, f))).toEqual([true, false, true]);
  });
});
