import type { Command } from 'commander';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { measureBetween, type BetweenFigures } from '@merry-shadow/core/measure/measure-between';
import { measureMarks, nearestPeople } from '@merry-shadow/core/measure/measure-marks';
import { measureMotion, type MotionFigures } from '@merry-shadow/core/measure/measure-motion';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { measureSnags, type SnagFigures } from '@merry-shadow/core/measure/measure-snags';
import type { Truth } from '@merry-shadow/core/measure/truth';
import { solveTake, type SolveOptions } from '@merry-shadow/core/solve/solve-take';
import { readScript } from '@merry-shadow/synth/choreography/script';
import { setStage } from '@merry-shadow/synth/stage';
import { contactF1 } from '../contact-f1';
import { fieldOfViewOf, measuredClips, scriptsIn } from '../measured-clips';
import { measureMouth } from './accuracy-mouth';
import { numberBetween } from '../numbers';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';
import { CAMERA_CLIPS, measureCameras } from './accuracy-camera';
import { measureFamilies } from './accuracy-families';
import { measureFaceClips, measureHandClips } from './accuracy-closer';
import { measureJudging } from './accuracy-judge';
import { measureDepthHints } from './accuracy-hints';
import { measureMendings } from './accuracy-mending';
import { measureFloors } from './accuracy-floors';

/** What the solve is measured with and without. */
const VARIANTS: Record<string, SolveOptions & { hold?: boolean }> = {
  'raw network': { fit: false, smooth: false },
  'first estimate': { fit: false },
  'without contacts': { contacts: false },
  'without held plants': { hold: false },
  'without 3D prior': { weights: { across: 10, along: 10 } },
  'nothing given': { height: undefined, fieldOfView: undefined },
  'whole solve': {},
};

interface Row extends MotionFigures {
  contactF1: number;
  msPerFrame: number;
}

export function addAccuracy(program: Command): void {
  program
    .command('accuracy')
    .description('track and solve clips with known truth and print the figures of docs/accuracy.md')
    .option('--demo', 'the demo clips, which constants were chosen on, instead of the trials')
    .option('--fine', 'with the second look at each frame')
    .option('--stillness', 'how well it is told whether the camera stands still or moves (demo/stillness)')
    .option('--shots', 'clips with hard cuts (demo/shots)')
    .option('--poses', 'clips that begin with a calibration pose, turned or seen from behind (demo/poses)')
    .option('--floors', 'steep cameras, small and far people, low rates, and two who share a floor (demo/floors)')
    .option('--families', 'a population of people built by four recipes, and what holds for each')
    .option(
      '--judge',
      'how well faults of footage are told before tracking: clips of a population with and without each',
    )
    .option(
      '--clips <n>',
      'with --families, --mending and --judge: how many clips of the population',
      numberBetween('--clips', 4, 1000),
      40,
    )
    .option(
      '--seed <n>',
      'with --families, --mending and --judge: which population',
      numberBetween('--seed', 0, 100_000),
      1,
    )
    .option('--motions <dir>', 'with --families and --mending: recorded motions (BVH) that some of them perform')
    .option(
      '--mending',
      'what is told as a snag in solved takes (trials and a population), and what mending makes of it',
    )
    .option('--hints', 'what a few depths bring that a person tells: on the trials, with --families on a population')
    .option('--hands', 'how well fingers and palms are solved, on made-up hands that show all shapes')
    .option('--face', 'how well faces are told, on made-up faces near the camera')
    .option('--mouth', "how well the mouth is told from voices of Debian's speech synthesiser (espeak-ng)")
    .option('--depth', "with a simulated depth camera that looks through the colour camera's lens")
    .option('--beside', 'with a simulated depth camera beside the colour camera, with a lens and a rate of its own')
    .option('--only <names>', 'of these choreographies alone, with commas between them')
    .action(accuracy);
}

interface AccuracyOptions {
  stillness?: boolean;
  shots?: boolean;
  poses?: boolean;
  demo?: boolean;
  fine?: boolean;
  depth?: boolean;
  beside?: boolean;
  only?: string;
  floors?: boolean;
  families?: boolean;
  judge?: boolean;
  mending?: boolean;
  hints?: boolean;
  hands?: boolean;
  face?: boolean;
  mouth?: boolean;
  clips: number;
  seed: number;
  motions?: string;
}

async function accuracy(options: AccuracyOptions): Promise<void> {
  const { demo, fine, beside } = options;
  const depth = options.depth || beside;
  const camera = CAMERA_CLIPS.find((folder) => options[folder]);
  if (camera) return measureCameras(camera);
  if (options.floors) return measureFloors();
  if (options.hints) return measureDepthHints(options);
  if (options.mending) return measureMendings(options);
  if (options.judge) return measureJudging(options);
  if (options.hands) await measureHandClips(options);
  if (options.face) await measureFaceClips(options);
  if (options.mouth) await measureMouth();
  if (options.hands || options.face || options.mouth) return;
  if (options.families) return measureFamilies(options);
  const scripts = join(ROOT, demo ? 'demo/choreography' : 'demo/trials');
  // What a depth camera saw is not kept with the demo.
  const clips =
    demo && !depth ? join(ROOT, 'demo/clips') : join(DATA, `${demo ? 'demo' : 'trials'}${beside ? '-beside' : ''}`);
  const wanted = options.only?.split(',');
  const texts = (await scriptsIn(scripts))
    .filter((text) => !wanted || wanted.includes(readScript(text).name))
    .map((text) => (beside ? withDepthBeside(text) : text));
  const rows: Record<string, Row[]> = {};
  for await (const { name, tracked, truths } of measuredClips(texts, clips, { fine, depth })) {
    process.stdout.write(`\n${name}\n`);
    if (truths.length > 1) process.stdout.write(identityLines(tracked, truths));
    else measureSolve(tracked[0], truths[0], rows);
  }
  process.stdout.write('\nmean\n');
  for (const [variant, list] of Object.entries(rows)) process.stdout.write(line(variant, meanRow(list)));
  const ratio = (key: 'paMpjpeMm' | 'wholeClipMpjpeMm'): string =>
    (
      rows['whole solve'].reduce((sum, row, i) => sum + row[key] / rows['raw network'][i][key], 0) /
      rows['whole solve'].length
    ).toFixed(2);
  process.stdout.write(`\nagainst raw: PA-MPJPE ${ratio('paMpjpeMm')}, whole clip ${ratio('wholeClipMpjpeMm')}\n`);
  process.stdout.write(`\nsnags: kind, planted, recall, precision\n${await snagLines(scripts)}`);
  process.stdout.write(
    `\nranges cut out and made anew, mm: seconds, ranges, straight, spline, made anew\n${await betweenLines(scripts)}`,
  );
}

/** The same choreography, filmed by a depth device whose cameras stand side by side. */
function withDepthBeside(text: string): string {
  const script = readScript(text);
  return JSON.stringify({ ...script, camera: { ...script.camera, beside: {} } });
}

/** Faults planted into the true motions of the choreographies: how many of each kind are found, and what else is told. */
async function snagLines(folder: string): Promise<string> {
  const total = new Map<string, SnagFigures>();
  for (const file of await readdir(folder)) {
    const script = readScript(await readFile(join(folder, file), 'utf8'));
    const [{ motion, contacts }] = setStage(script).performances;
    const places = [40, 75, 110, 150, 190].filter((place) => place < motion.frames);
    for (const [kind, { planted, found, false: wrong }] of Object.entries(measureSnags(motion, contacts, places))) {
      const sum = total.get(kind) ?? { planted: 0, found: 0, false: 0 };
      total.set(kind, { planted: sum.planted + planted, found: sum.found + found, false: sum.false + wrong });
    }
  }
  return [...total]
    .map(([kind, { planted, found, false: wrong }]) => {
      const precision = found + wrong > 0 ? (found / (found + wrong)).toFixed(2) : '–';
      return tableLine([kind, String(planted), (found / planted).toFixed(2), precision]);
    })
    .join('');
}

/** Ranges cut out of the true motions of the choreographies: how far from them they are made anew. */
async function betweenLines(folder: string): Promise<string> {
  const total = new Map<number, BetweenFigures[]>();
  for (const text of await scriptsIn(folder)) {
    const [{ motion }] = setStage(readScript(text)).performances;
    for (const figures of measureBetween(motion))
      total.set(figures.seconds, [...(total.get(figures.seconds) ?? []), figures]);
  }
  return [...total]
    .map(([seconds, list]) => {
      const ranges = list.reduce((sum, row) => sum + row.ranges, 0);
      const mean = (key: 'straightMm' | 'splineMm' | 'madeAnewMm'): string =>
        (list.reduce((sum, row) => sum + row[key] * row.ranges, 0) / ranges).toFixed(1);
      return tableLine([String(seconds), String(ranges), mean('straightMm'), mean('splineMm'), mean('madeAnewMm')]);
    })
    .join('');
}

/** Prints the marks and the solve of one performer, the latter with parts left out, and keeps its rows. */
function measureSolve(observations: Observations, truth: Truth, rows: Record<string, Row[]>): void {
  const marks = measureMarks(observations, truth);
  process.stdout.write(
    `seen in ${marks.bodySeen} of ${marks.frames} frames; left hand ${marks.handsSeen.left}, right hand ${marks.handsSeen.right}, ${marks.handErrorPx.toFixed(1)} px from the joints (palm ${marks.palmPx.toFixed(0)} px); face ${marks.faceSeen}, lips r = ${marks.lipCorrelation.toFixed(2)}\n`,
  );
  const fieldOfView = fieldOfViewOf(truth);
  const variants: typeof VARIANTS = {
    ...(truth.cameraPath && { 'camera movement left in': { steady: false } }),
    ...VARIANTS,
  };
  for (const [variant, options] of Object.entries(variants)) {
    const begin = performance.now();
    const solved = solveTake(observations, { height: truth.height, fieldOfView, ...options });
    const msPerFrame = (performance.now() - begin) / observations.frames;
    const motion = options.hold === false ? solved.motion : finishedMotion(solved);
    const row = { ...measureMotion(motion, truth), contactF1: contactF1(solved, truth), msPerFrame };
    (rows[variant] ??= []).push(row);
    process.stdout.write(line(variant, row));
  }
}

/** For each tracked performer, whom their marks lay nearest to. */
function identityLines(tracked: readonly Observations[], truths: readonly Truth[]): string {
  return tracked
    .map((observations, i) => {
      const counts = nearestPeople(observations, truths);
      const told = truths.map(({ performer }, k) => `${performer} in ${counts[k]}`).join(', ');
      const gaps = observations.frames - counts.reduce((a, b) => a + b, 0);
      return `performer ${i + 1} is ${told}, a gap in ${gaps} of ${observations.frames} frames\n`;
    })
    .join('');
}

function meanRow(list: readonly Row[]): Row {
  const keys = Object.keys(list[0]) as (keyof Row)[];
  return Object.fromEntries(
    keys.map((key) => {
      const known = list.map((row) => row[key]).filter((value) => !Number.isNaN(value));
      return [key, known.reduce((sum, value) => sum + value, 0) / known.length];
    }),
  ) as unknown as Row;
}

function line(variant: string, row: Row): string {
  const cells = [row.paMpjpeMm, row.rootAlignedMpjpeMm, row.wholeClipMpjpeMm].map((value) => value.toFixed(1));
  cells.push(
    row.jerkRatio.toFixed(2),
    Number.isNaN(row.wristPeakLossPercent) ? '–' : row.wristPeakLossPercent.toFixed(0),
    row.footSlideMmPerFrame.toFixed(2),
    (row.sinkingMm + row.hoveringMm).toFixed(1),
    Number.isNaN(row.contactF1) ? '–' : row.contactF1.toFixed(2),
    row.msPerFrame.toFixed(1),
  );
  return tableLine([variant, ...cells]);
}
