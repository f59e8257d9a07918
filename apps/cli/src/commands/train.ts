import type { Command } from 'commander';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { measureMotion } from '@merry-shadow/core/measure/measure-motion';
import type { Truth } from '@merry-shadow/core/measure/truth';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { finishedMotion } from '@merry-shadow/core/passes/take-edits';
import type { Correction } from '@merry-shadow/core/solve/network-correction';
import { solveTake } from '@merry-shadow/core/solve/solve-take';
import { populationClip } from '@merry-shadow/synth/population/clip';
import { fieldOfViewOf, measuredClips, recordingsIn } from '../measured-clips';
import { numberBetween } from '../numbers';
import { DATA, ROOT } from '../paths';
import { correctionText } from '../train/correction-text';
import { rawAgainst, trainCorrection } from '../train/train-correction';
import { samplesOf, type Sample } from '../train/samples';

interface TrainOptions {
  clips: string;
  seeds: string;
  motions?: string;
  hidden: string;
  to?: string;
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
    .option('--hidden <list>', 'sizes of the layers between, with commas between; none for a linear correction', '')
    .option('--no-leave-out', 'skip the figures for builders that were left out')
    .option('--to <file>', 'where to write it', join(ROOT, 'packages/core/src/solve/learned-correction.ts'))
    .action(train);
}

async function train(options: TrainOptions): Promise<void> {
  const recordings = options.motions ? await recordingsIn(options.motions) : [];
  const hidden = options.hidden.split(',').filter(Boolean).map(Number);
  if (hidden.some((size) => !(size >= 1 && size <= 1024))) throw new Error('--hidden takes sizes from 1 to 1024.');
  const counts = numbers('--clips', options.clips, 1000);
  const clips: TrainingClip[] = [];
  for (const [k, seed] of numbers('--seeds', options.seeds, 100_000).entries()) {
    const scripts = Array.from({ length: counts[k] ?? counts[0] }, (_, i) =>
      JSON.stringify(populationClip(seed, i, recordings)),
    );
    const folder = join(DATA, recordings.length > 0 ? 'families-recorded' : 'families');
    for await (const { name, tracked, truths } of measuredClips(scripts, folder))
      clips.push(trainingClip(name, tracked[0], truths[0]));
  }
  const families = [...new Set(clips.map(({ family }) => family))];
  const samples = clips.flatMap((clip) => clip.samples);
  process.stdout.write(`${samples.length} frames of ${clips.length} clips, ${families.length} builders\n`);
  if (options.leaveOut) for (const family of families) leaveOut(family, clips, hidden);
  const whole = trainCorrection(samples, hidden);
  process.stdout.write(`fitted on all: points ${rawAgainst(samples, whole).toFixed(3)} of the network's\n`);
  if (options.to) await writeFile(options.to, correctionText(whole));
}

/** A clip to learn from. */
interface TrainingClip {
  family: string;
  observations: Observations;
  truth: Truth;
  samples: Sample[];
}

function trainingClip(name: string, observations: Observations, truth: Truth): TrainingClip {
  const [family] = name.split('-');
  return { family, observations, truth, samples: samplesOf(observations, truth, name) };
}

/** Prints what a correction that was learned without a builder brings for that builder's clips. */
function leaveOut(family: string, clips: readonly TrainingClip[], hidden: readonly number[]): void {
  const own = clips.filter((clip) => clip.family === family);
  const rest = clips.filter((clip) => clip.family !== family).flatMap((clip) => clip.samples);
  const correction = trainCorrection(rest, hidden);
  const points = rawAgainst(
    own.flatMap((clip) => clip.samples),
    correction,
  );
  const [before, after] = [null, correction].map((other) => solvedAgainst(own, other));
  process.stdout.write(
    `${family} left out: points ${points.toFixed(3)} of the network's (${rawAgainst(rest, correction).toFixed(3)} for those it was fitted on); solved PA-MPJPE ${before.pa.toFixed(3)} of raw without, ${after.pa.toFixed(3)} with it; whole clip ${before.whole.toFixed(3)}, ${after.whole.toFixed(3)}\n`,
  );
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
