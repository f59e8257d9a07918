import type { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { finishedMotion } from '@merry-shadow/core/edits/evaluate/take-evaluator';
import { MARK_PARTS, type MarkPart } from '@merry-shadow/core/solve/body/joint-offsets';
import type { Correction } from '@merry-shadow/core/solve/network/network-correction';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import type { Script } from '@merry-shadow/synth/choreography/script';
import { populationClip } from '@merry-shadow/synth/population/clip';
import { fieldOfViewOf, measuredClips, recordingsIn } from '../measured-clips';
import { numberBetween } from '../numbers';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';
import { trainCloser } from './train-closer';
import { correctionText } from '../train/correction-text';
import { addProducts, depthErrorsText, noProducts, type ErrorProducts } from '../train/depth-errors';
import { addOffsets, noSums, offsetOf, shrunk, type OffsetSums } from '../train/mark-offsets';
import { rawAgainst, trainCorrection } from '../train/train-correction';
import { samplesOf, type Sample } from '../train/samples';

interface TrainOptions {
  clips: string;
  seeds: string;
  sparse: string;
  motions?: string;
  bells: string;
  to?: string;
  errorsTo?: string;
  offsets?: boolean;
  hands?: boolean;
  face?: boolean;
  leaveOut: boolean;
}

export function addTrain(program: Command): void {
  program
    .command('train')
    .description(
      'learn what the pose network gets wrong from populations of made-up people, and print what that brings for builders that were left out',
    )
    .option('--clips <list>', 'how many clips of each population, with commas between', '40,24')
    .option('--seeds <list>', 'which populations, with commas between', '1,2')
    .option('--motions <dir>', 'recorded motions (BVH) that some of them perform')
    .option('--sparse <count>', 'how many clips more at ten frames a second, which are only learned from', '120')
    .option('--bells <count>', 'how many Gaussian bells each of its two maps has; 0 for a linear correction', '300')
    .option('--no-leave-out', 'skip the figures for builders and recordings that were left out')
    .option(
      '--offsets',
      'instead, print where marks lie beside their joints as each builder tells it, and what they tell together',
    )
    .option('--hands', "instead, learn what the hand network's points get wrong of fingers, from made-up hands")
    .option('--face', 'instead, learn to tell the shapes of a face from its marks, from made-up faces')
    .option('--to <file>', 'where to write it', join(ROOT, 'packages/core/src/solve/network/learned-correction.ts'))
    .option(
      '--errors-to <file>',
      'where to write how depths err together for builders that were left out',
      join(ROOT, 'packages/core/src/solve/hints/depth-errors.ts'),
    )
    .action(train);
}

/** The population that is filmed at few frames a second: many bodies, places and poses for little time. */
const SPARSE = { seed: 21, rate: 10 };
const sparseClip = (clip: Script): Script => ({ ...clip, name: `${clip.name}-sparse`, rate: SPARSE.rate });

async function train(options: TrainOptions): Promise<void> {
  for (const part of ['hands', 'face'] as const) if (options[part]) await trainCloser(part, options.leaveOut);
  if (options.hands || options.face) return;
  const recordings = options.motions ? await recordingsIn(options.motions) : [];
  const bells = Math.round(numberBetween('--bells', 0, 4096)(options.bells));
  const counts = numbers('--clips', options.clips, 1000);
  // Offsets were chosen without them.
  const more = options.offsets ? 0 : Math.round(numberBetween('--sparse', 0, 10_000)(options.sparse));
  const clips: TrainingClip[] = [];
  const populations = numbers('--seeds', options.seeds, 100_000).map((seed, k) => ({
    count: counts[k] ?? counts[0],
    sparse: false,
    draw: (i: number): Script => populationClip(seed, i, recordings),
  }));
  populations.push({
    count: more,
    sparse: true,
    draw: (i) => sparseClip(populationClip(SPARSE.seed, i, recordings)),
  });
  for (const { count, draw, sparse } of populations) {
    const drawn = Array.from({ length: count }, (_, i) => draw(i));
    const recorded = new Set(drawn.filter(({ performers }) => performers[0].recording).map(({ name }) => name));
    const scripts = drawn.map((script) => JSON.stringify(script));
    const folder = join(DATA, recordings.length > 0 ? 'families-recorded' : 'families');
    for await (const { name, tracked, truths } of measuredClips(scripts, folder))
      clips.push(trainingClip(name, { recorded: recorded.has(name), sparse }, tracked[0], truths[0]));
  }
  const families = [...new Set(clips.map(({ family }) => family))];
  if (options.offsets) return printOffsets(families, clips);
  const samples = clips.flatMap((clip) => clip.samples);
  process.stdout.write(`${samples.length} frames of ${clips.length} clips, ${families.length} builders\n`);
  const errors = noProducts();
  if (options.leaveOut) for (const family of families) leaveOut(family, clips, bells, errors);
  const whole = trainCorrection(samples, bells);
  process.stdout.write(`fitted on all: points ${rawAgainst(samples, whole).toFixed(3)} of the network's\n`);
  if (options.to) await writeFile(options.to, correctionText(whole));
  if (options.errorsTo && errors.frames > 0) await writeFile(options.errorsTo, depthErrorsText(errors));
}

/** Prints each builder's offsets of marks, and what they tell together: parts of the body's height in percent. */
function printOffsets(families: readonly string[], clips: readonly TrainingClip[]): void {
  const told = families.map((family) => {
    const sums = new Map<MarkPart, OffsetSums>();
    for (const clip of clips) if (clip.family === family) addOffsets(sums, clip.observations, clip.truth);
    return sums;
  });
  const percent = (values: readonly number[]): string => values.map((value) => (value * 100).toFixed(2)).join(' ');
  process.stdout.write(tableLine(['part', ...families, 'mean', 'they differ by', 'drawn to nothing by that']));
  for (const part of MARK_PARTS) {
    const offsets = told.map((sums) => offsetOf(sums.get(part) ?? noSums()));
    const together = [0, 1, 2].map((k) => shrunk(offsets.map((offset) => offset[k])));
    process.stdout.write(
      tableLine([
        part,
        ...offsets.map(percent),
        percent(together.map(({ mean }) => mean)),
        percent(together.map(({ deviation }) => deviation)),
        percent(together.map((one) => one.shrunk)),
      ]),
    );
  }
}

/** A clip to learn from. */
interface TrainingClip {
  family: string;
  /** True where a recorded motion is performed in it. */
  recorded: boolean;
  /** True where it has few frames a second: it is only learned from. */
  sparse: boolean;
  observations: Observations;
  truth: Truth;
  samples: Sample[];
}

function trainingClip(
  name: string,
  kind: Pick<TrainingClip, 'recorded' | 'sparse'>,
  observations: Observations,
  truth: Truth,
): TrainingClip {
  const [family] = name.split('-');
  return { family, ...kind, observations, truth, samples: samplesOf(observations, truth, name) };
}

/**
 * Prints what a correction brings for a builder's clips that was learned from the others', without recorded motions: for drawn moves and for recordings.
 * @param errors to which what is still wrong of the builder's depths is added.
 */
function leaveOut(family: string, clips: readonly TrainingClip[], bells: number, errors: ErrorProducts): void {
  const rest = clips.filter((clip) => clip.family !== family && !clip.recorded).flatMap((clip) => clip.samples);
  const correction = trainCorrection(rest, bells);
  process.stdout.write(
    `${family} left out: points ${rawAgainst(rest, correction).toFixed(3)} of the network's for those learned from\n`,
  );
  for (const clip of clips) if (clip.family === family) addProducts(errors, clip.samples, correction);
  for (const recorded of [false, true]) {
    const own = clips.filter((clip) => clip.family === family && clip.recorded === recorded && !clip.sparse);
    if (own.length === 0) continue;
    const points = rawAgainst(
      own.flatMap((clip) => clip.samples),
      correction,
    );
    const [before, after] = [null, correction].map((other) => solvedAgainst(own, other));
    process.stdout.write(
      `  ${recorded ? 'recordings' : 'drawn moves'}, ${own.length} clips: points ${points.toFixed(3)}; solved PA-MPJPE ${before.pa.toFixed(3)} of raw without, ${after.pa.toFixed(3)} with it; whole clip ${before.whole.toFixed(3)}, ${after.whole.toFixed(3)}\n`,
    );
  }
}

/** Solved clips against raw: means of the clips' ratios. */
function solvedAgainst(clips: readonly TrainingClip[], correction: Correction | null): { pa: number; whole: number } {
  const sums = { pa: 0, whole: 0 };
  for (const { observations, truth } of clips) {
    const given = { height: truth.height, fieldOfView: fieldOfViewOf(truth), correction };
    const raw = measureMotion(solveTake(observations, { ...given, fit: false, smooth: false }).motion, truth);
    const own = measureMotion(finishedMotion(solveTake(observations, given)), truth);
    sums.pa += own.paMpjpeMm / raw.paMpjpeMm / clips.length;
    sums.whole += own.wholeClipMpjpeMm / raw.wholeClipMpjpeMm / clips.length;
  }
  return sums;
}

/** Whole numbers with commas between. @throws Error naming the option. */
function numbers(option: string, text: string, most: number): number[] {
  const read = numberBetween(option, 0, most);
  return text.split(',').map((part) => Math.round(read(part)));
}
