import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MarksFile } from '@merry-shadow/contracts/marks-file';

/** The command line as a person types it. */
const folder = mkdtempSync(join(tmpdir(), 'merry-cli-'));
afterAll(() => rmSync(folder, { recursive: true }));
const run = (...args: string[]) =>
  spawnSync(process.execPath, ['--import', 'tsx', 'apps/cli/src/main.ts', ...args], {
    encoding: 'utf8',
    env: { ...process.env, MERRY_SHADOW_ROOT: process.cwd() },
  });

it('judge tells what will cost quality, and all that was measured', () => {
  const clip = 'demo/clips/rope-haul.mp4';
  const told = run('judge', clip);
  expect(told.stderr).toBe('');
  expect(told.stdout).toContain('Two people are in the picture');
  expect(told.stdout).toMatch(/\d+ looks in [\d.]+ s/);
  const values = JSON.parse(run('judge', clip, '--values').stdout) as { at: number[]; people: number[] };
  expect(values.people).toHaveLength(values.at.length);
  expect(run('judge', 'no-such-clip.mp4')).toMatchObject({ status: 1, stderr: expect.stringContaining('not there') });
});

describe('track and measure', () => {
  it('go from a clip to files and figures', () => {
    const tracked = run(
      'track',
      'demo/clips/flag-signals.mp4',
      '--to',
      folder,
      '--from',
      '0.5',
      '--until',
      '2.5',
      '--height',
      '1.78',
      '--json',
    );
    expect(tracked.stderr).toBe('');
    const report = JSON.parse(tracked.stdout);
    expect(report).toMatchObject({ frames: 60, seen: 60, rate: 30, seconds: 2 });
    expect(report.framesPerSecond).toBeGreaterThan(0);
    expect(readdirSync(folder).sort()).toEqual([
      'flag-signals.take1.bvh',
      'flag-signals.take1.glb',
      'flag-signals.take1.marks.json',
      'flag-signals.take1.vrma',
      'report.json',
    ]);
    const marks = MarksFile.parse(JSON.parse(readFileSync(join(folder, 'flag-signals.take1.marks.json'), 'utf8')));
    expect(marks.frames).toHaveLength(60);
    const measured = run(
      'measure',
      join(folder, 'flag-signals.take1.bvh'),
      '--truth',
      'demo/clips/flag-signals.truth.json',
      '--json',
    );
    expect(JSON.parse(measured.stdout)).toMatchObject({
      frames: 60,
      joints: 12,
    });
    expect(JSON.parse(measured.stdout).boneLengthVariationPercent).toBeLessThan(0.001);
  });

  it('stay under ceilings on a clip made just now, of a body and a room that no constant was chosen on', () => {
    const to = join(folder, 'trial');
    expect(run('synth', 'demo/poses/a-turned.json', '--to', to).stderr).not.toContain('Error');
    run('track', join(to, 'a-turned.mp4'), '--to', to, '--height', '1.78', '--fov', '54', '--json');
    const measured = run(
      'measure',
      join(to, 'a-turned.take1.bvh'),
      '--truth',
      join(to, 'a-turned.truth.json'),
      '--json',
    );
    const figures = JSON.parse(measured.stdout);
    // Measured 29 and 32 mm; half as much again is too much.
    expect(figures.paMpjpeMm).toBeLessThan(44);
    expect(figures.wholeClipMpjpeMm).toBeLessThan(48);
    expect(figures.jerkRatio).toBeLessThan(2);
    expect(figures.footSlideMmPerFrame).toBeLessThan(1);
    expect(figures.sinkingMm + figures.hoveringMm).toBeLessThan(5);
  });
});

describe('track', () => {
  it('follows two people at once, a take for each', () => {
    const to = join(folder, 'two');
    const { stdout, stderr } = run(
      'track',
      'demo/clips/rope-haul.mp4',
      '--to',
      to,
      '--performers',
      '2',
      '--from',
      '6',
      '--until',
      '7',
      '--height',
      '1.8,',
      '--json',
    );
    expect(stderr).toBe('');
    const report = JSON.parse(stdout);
    expect(report.takes).toHaveLength(2);
    for (const take of report.takes) expect(take.seen).toBeGreaterThan(27);
    expect(report.takes[0].height).toEqual({ metres: 1.8, estimated: false });
    expect(report.takes[1].height.estimated).toBe(true);
    expect(readdirSync(to).sort()).toEqual([
      'report.json',
      ...[1, 2].flatMap((n) => [
        `rope-haul.take${n}.bvh`,
        `rope-haul.take${n}.glb`,
        `rope-haul.take${n}.marks.json`,
        `rope-haul.take${n}.vrma`,
      ]),
    ]);
  });

  it('gives fingers and a face as files of their own', () => {
    const to = join(folder, 'near');
    const clip = 'demo/clips/call-over-the-wind.mp4';
    const { stderr } = run('track', clip, '--hands', '--face', '--from', '1', '--until', '3', '--to', to);
    expect(stderr).toBe('');
    const file = (ending: string): string => readFileSync(join(to, `call-over-the-wind.take1.${ending}`), 'utf8');
    expect(readdirSync(to).sort()).toEqual([
      ...['bvh', 'face.csv', 'face.json', 'glb', 'marks.json', 'vrma'].map((end) => `call-over-the-wind.take1.${end}`),
      'report.json',
    ]);
    expect(file('bvh')).toContain('JOINT leftIndexIntermediate');
    const [header, ...rows] = file('face.csv').trim().split('\r\n');
    expect(rows).toHaveLength(60);
    const jaw = rows.map((row) => Number(row.split(',')[header.split(',').indexOf('jawOpen')]));
    expect(Math.max(...jaw)).toBeGreaterThan(0.4);
    expect(Math.min(...jaw)).toBeLessThan(0.1);
    expect(JSON.parse(file('face.json')).notTold).toContain('tongueOut');
  });

  it('reads a folder of pictures by the exact rule and writes the marks alone, hands and face too', () => {
    const pictures = join(folder, 'pictures');
    mkdirSync(pictures);
    execFileSync('ffmpeg', [
      '-loglevel',
      'error',
      '-i',
      'demo/clips/flag-signals.mp4',
      '-frames:v',
      '5',
      join(pictures, '%03d.png'),
    ]);
    const file = join(folder, 'exact.json');
    const { stdout, stderr } = run('track', pictures, '--fps', '30', '--plain', '--hands', '--face', '--marks', file);
    expect(stderr).toBe('');
    expect(stdout).toContain('5 frames, 5 with the performer seen');
    const { frames, rate } = MarksFile.parse(JSON.parse(readFileSync(file, 'utf8')));
    expect(rate).toBe(30);
    expect(
      frames.map((frame) => [frame.marks?.length, frame.leftHand?.marks.length, frame.face?.marks.length]),
    ).toEqual(Array.from({ length: 5 }, () => [33, 21, 478]));
  });

  it('tells true time for slow motion', () => {
    const { stdout } = run(
      'track',
      'demo/clips/flag-signals.mp4',
      '--marks',
      join(folder, 'slow.json'),
      '--until',
      '0.5',
      '--slow',
      '4',
      '--json',
    );
    expect(JSON.parse(stdout)).toMatchObject({ frames: 15, rate: 120, seconds: 0.125 });
  });

  it('takes marks of large pictures back to their own size', () => {
    const large = join(folder, 'large.mp4');
    execFileSync('ffmpeg', [
      '-loglevel',
      'error',
      '-i',
      'demo/clips/flag-signals.mp4',
      '-frames:v',
      '3',
      '-vf',
      'scale=3840:2160',
      '-preset',
      'ultrafast',
      large,
    ]);
    const file = join(folder, 'large.json');
    run('track', large, '--marks', file);
    const { width, frames } = MarksFile.parse(JSON.parse(readFileSync(file, 'utf8')));
    expect(width).toBe(3840);
    const nose = frames[0].marks?.[0];
    // The keeper stands in the middle, his head in the upper half.
    expect(Math.abs((nose?.x ?? 0) - 1920)).toBeLessThan(150);
    expect(nose?.y).toBeLessThan(1080);
  });
});

describe('wrong input', () => {
  it.each([
    [['track', 'nowhere.mp4', '--to', folder], 'There is no clip at nowhere.mp4.'],
    [['track', 'package.json', '--to', folder], 'no video that can be read'],
    [['track', 'demo/clips/flag-signals.mp4'], 'Say where to write'],
    [['track', 'demo/clips/flag-signals.mp4', '--to', folder, '--from', '99'], 'behind its end'],
    [['track', 'demo/clips/flag-signals.mp4', '--to', folder, '--height', 'tall'], '--height must be a number'],
    [['track', 'demo/clips/rope-haul.mp4', '--to', folder, '--height', '1.8,tall'], '--height must be a number'],
    [['measure', 'nowhere.bvh', '--truth', 'x'], 'There is no file nowhere.bvh.'],
    [['measure', 'package.json', '--truth', 'package.json'], '"HIERARCHY" was expected'],
    [['synth', 'nowhere.json', '--to', folder], 'There is no choreography'],
    [['synth', 'some.json', '--population', '2', '--to', folder], 'A population is drawn at random'],
    [['synth', '--population', '2', '--motions', 'nowhere', '--to', folder], 'no recorded motions (BVH) in nowhere'],
    [['train', '--bells', '-1'], '--bells must be a number'],
    [['train', '--seeds', 'x'], '--seeds must be a number'],
    [
      ['track', 'demo/clips/flag-signals.mp4', '--to', folder, '--depth', 'none.mkv', '--until', '0.2'],
      'There is no depth video at none.mkv',
    ],
  ])('%j says what is wrong', (args, message) => {
    const { status, stderr } = run(...args);
    expect(status).not.toBe(0);
    expect(stderr).toContain(message);
    expect(stderr).not.toContain('    at ');
  });
});

describe('synth', () => {
  it('renders a script to a video with its truth', () => {
    const script = join(folder, 'tiny.json');
    writeFileSync(
      script,
      JSON.stringify({
        name: 'tiny',
        seconds: 0.2,
        size: [160, 90],
        performers: [{ name: 'a' }, { name: 'b', moves: { place: [1, 0] } }],
      }),
    );
    const { stdout, stderr } = run('synth', script, '--depth', '--to', folder);
    expect(stderr).toBe('');
    expect(
      stdout
        .trim()
        .split('\n')
        .map((path) => path.split('/').pop()),
    ).toEqual(['tiny.mp4', 'tiny.depth.mkv', 'tiny.a.truth.json', 'tiny.b.truth.json']);
    const pixels = ['-v', 'error', '-show_entries', 'stream=pix_fmt,width,height,nb_read_frames', '-count_frames'];
    expect(
      execFileSync('ffprobe', [...pixels, '-of', 'csv=p=0', join(folder, 'tiny.depth.mkv')], {
        encoding: 'utf8',
      }).trim(),
    ).toBe('80,45,gray16le,6');
    expect(JSON.parse(readFileSync(join(folder, 'tiny.b.truth.json'), 'utf8')).frames).toBe(6);
  });

  it('goes on with a population where it was interrupted', () => {
    const to = join(folder, 'population');
    mkdirSync(to);
    writeFileSync(join(to, 'blended-4-00.truth.json'), '{}');
    const { stdout, stderr, status } = run('synth', '--population', '1', '--seed', '4', '--to', to);
    expect([status, stdout, stderr]).toEqual([0, '', '']);
    expect(readdirSync(to)).toEqual(['blended-4-00.truth.json']);
  });
});
