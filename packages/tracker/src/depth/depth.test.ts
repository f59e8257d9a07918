import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MARK, MARK_COUNT } from '@merry-shadow/core/observe/body';
import { emptyObservations, type Observations } from '@merry-shadow/core/observe/observations';
import { probeDepth, withDepth } from '../node/read-depth';
import { depthAt, DepthCourse, type DepthMap } from './sample-depth';

/** A map of 40 × 30 from millimetres for each place. */
const mapOf = (value: (x: number, y: number) => number): DepthMap => ({
  width: 40,
  height: 30,
  data: Uint16Array.from({ length: 1200 }, (_, i) => value(i % 40, Math.floor(i / 40))),
});

describe('depth about a place', () => {
  it('is the median of what is told, holes or not', () => {
    const holes = mapOf((x, y) => ((x + y) % 3 === 0 ? 0 : 2000 + (x % 2)));
    expect(depthAt(holes, 20, 15, 4)).toBeCloseTo(2, 2);
  });

  it('is that of an arm, not of the wall beside and behind it', () => {
    const arm = mapOf((x) => (x >= 19 && x <= 21 ? 1800 : 3500));
    expect(depthAt(arm, 20, 15, 3)).toBe(1.8);
    // What slants belongs together.
    expect(
      depthAt(
        mapOf((x) => 2000 + x * 5),
        20,
        15,
        3,
      ),
    ).toBeCloseTo(2.1, 2);
  });

  it('is unknown where little or nothing is told, and off the map', () => {
    expect(
      depthAt(
        mapOf(() => 0),
        20,
        15,
        4,
      ),
    ).toBeNaN();
    expect(
      depthAt(
        mapOf((x, y) => (x === 20 && y === 15 ? 2000 : 0)),
        20,
        15,
        4,
      ),
    ).toBeNaN();
    expect(
      depthAt(
        mapOf(() => 2000),
        -30,
        15,
        4,
      ),
    ).toBeNaN();
  });
});

describe('depth of a sensor with another rate than the picture', () => {
  /** Somebody whose marks all go to the right, a pixel of the map a frame, before a wall that slants and comes nearer by 0.6 m a second. */
  const rate = 30;
  const filled = (times: readonly number[]): number[] => {
    const seen = emptyObservations(12, rate, 40, 30, { hands: false, face: false });
    for (let f = 0; f < 12; f++)
      for (let i = 0; i < MARK_COUNT; i++) seen.marks.set([10.5 + f, 15.5, 1], (f * MARK_COUNT + i) * 3);
    const observations = { ...seen, depth: new Float32Array(12 * MARK_COUNT).fill(NaN) };
    const course = new DepthCourse(observations, rate);
    for (const seconds of times)
      course.add(
        mapOf((x) => 3000 - 600 * seconds + 10 * x),
        seconds,
      );
    return Array.from({ length: 12 }, (_, f) => observations.depth[f * MARK_COUNT + MARK.leftWrist]);
  };
  const truth = (frame: number): number => 3 - (0.6 * frame) / rate + 0.01 * (10 + frame);

  it('is told for each frame by the maps before and after it', () => {
    const told = filled([-0.01, 0.057, 0.123, 0.19, 0.257, 0.323, 0.39]);
    told.forEach((depth, frame) => expect(Math.abs(depth - truth(frame))).toBeLessThan(0.006));
  });

  it('is told for the nearest frame alone where maps lie far apart', () => {
    const told = filled([0.1, 0.3]);
    expect(told.map(Number.isFinite).flatMap((yes, frame) => (yes ? [frame] : []))).toEqual([3, 9]);
    expect(Math.abs(told[3] - truth(3))).toBeLessThan(0.006);
  });

  it('is told for nothing by maps that were taken before and after', () => {
    expect(filled([-0.2, 0.6]).every(Number.isNaN)).toBe(true);
  });
});

describe('the video of a depth camera', () => {
  const folder = mkdtempSync(join(tmpdir(), 'merry-depth-'));
  afterAll(() => rmSync(folder, { recursive: true }));
  const make = (name: string, ...args: string[]): string => {
    const path = join(folder, name);
    execFileSync('ffmpeg', ['-y', '-loglevel', 'error', ...args, path]);
    return path;
  };
  /** Ten frames a second for two seconds: frame n tells 1000 + 100 n millimetres on the left and twice that on the right. */
  const grey = make(
    'grey.depth.mkv',
    ...['-f', 'lavfi', '-i', "nullsrc=s=80x60:r=10:d=2,format=gray16le,geq=lum='(1000+100*N)*(1+gte(X,40))'"],
    ...['-c:v', 'ffv1'],
  );
  /** Somebody whose left wrist is seen on the left of the picture, and the right one on the right. */
  const [width, height] = [320, 240];
  const seen = (frames: number): Observations => {
    const out = emptyObservations(frames, 10, width, height, { hands: true, face: false });
    for (let i = 0; i < frames * MARK_COUNT; i++) out.marks.set([width / 4, height / 2, 1], i * 3);
    for (let f = 0; f < frames; f++)
      out.marks.set([(width * 3) / 4, height / 2, 1], (f * MARK_COUNT + MARK.rightWrist) * 3);
    return out;
  };

  it('tells each mark its depth, from the in point on', async () => {
    const whole = seen(6);
    whole.hands?.left.presence.fill(0.5);
    // Nobody is there in the third frame.
    whole.marks.fill(NaN, 2 * MARK_COUNT * 3, 3 * MARK_COUNT * 3);
    const [out, other] = await withDepth([whole, seen(6)], await probeDepth(grey, whole), { rate: 10, first: 4 });
    const at = (frame: number, mark: number): number => out.depth?.[frame * MARK_COUNT + mark] ?? NaN;
    expect(at(0, MARK.leftWrist)).toBeCloseTo(1.4, 6);
    expect(at(0, MARK.rightWrist)).toBeCloseTo(2.8, 6);
    expect(at(5, MARK.leftWrist)).toBeCloseTo(1.9, 6);
    expect(at(2, MARK.leftWrist)).toBeNaN();
    expect(other.depth?.[2 * MARK_COUNT]).toBeCloseTo(1.6, 6);
    expect([out.marks, out.hands]).toEqual([whole.marks, whole.hands]);
    expect(whole.depth).toBeUndefined();
  });

  it('leaves what lies behind its end without depth', async () => {
    const [out] = await withDepth([seen(6)], await probeDepth(grey, seen(6)), { rate: 10, first: 17 });
    expect(out.depth?.[2 * MARK_COUNT]).toBeCloseTo(2.9, 6);
    expect(out.depth?.[3 * MARK_COUNT]).toBeNaN();
  });

  it('is refused when it is a picture, or one of another shape', async () => {
    await expect(probeDepth(grey, { width: 320, height: 180 })).rejects.toThrow(
      "another shape than the picture's 320 × 180",
    );
    const colour = make('colour.mp4', '-f', 'lavfi', '-i', 'testsrc=s=80x60:r=10:d=1');
    await expect(probeDepth(colour, { width: 320, height: 240 })).rejects.toThrow('grey levels of 16 bits');
  });
});
