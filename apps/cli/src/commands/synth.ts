import { Option, type Command } from 'commander';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { recordingsIn } from '../measured-clips';
import { numberBetween } from '../numbers';
import { recordedScript } from '@merry-shadow/synth/recording/recorded-script';
import { makeClip } from '@merry-shadow/synth/make-clip';
import { populationClip } from '@merry-shadow/synth/population/clip';

interface SynthOptions {
  to: string;
  workers: number;
  depth?: 'sensed' | 'clean';
  motion?: string;
  height?: number;
  seconds?: number;
  population?: number;
  seed: number;
  motions?: string;
}

/** Clips of a population that are not there yet; what was interrupted goes on. */
async function makePopulation(count: number, { to, seed, workers, depth, motions }: SynthOptions): Promise<void> {
  const recordings = motions ? await recordingsIn(motions) : [];
  for (let index = 0; index < count; index++) {
    const script = populationClip(seed, index, recordings);
    if (existsSync(join(to, `${script.name}.truth.json`))) continue;
    const { video } = await makeClip(JSON.stringify(script), to, { workers, depth });
    process.stdout.write(`${video}\n`);
  }
}

/** The choreography that is asked for, as text. */
async function choreography(script: string | undefined, { motion, height, seconds }: SynthOptions): Promise<string> {
  if ((script === undefined) === (motion === undefined))
    throw new Error('Name either a choreography or, with --motion, a recorded motion.');
  const path = (script ?? motion) as string;
  const text = await readFile(path, 'utf8').catch(() => {
    throw new Error(`There is no ${script ? 'choreography' : 'recording'} at ${path}.`);
  });
  if (script) return text;
  return JSON.stringify(recordedScript(text, { name: basename(path, extname(path)), height, seconds }));
}

export function addSynth(program: Command): void {
  program
    .command('synth')
    .description('render a choreography to a video with its truth beside it')
    .argument('[script]', 'choreography file (JSON), see demo/choreography and docs/formats.md')
    .option(
      '--motion <file>',
      'instead: a recorded motion (BVH, any bone names and units), put on the made-up performer',
    )
    .option('--height <metres>', 'height of that performer', numberBetween('--height', 1.2, 2.2))
    .option('--seconds <n>', 'the longest that is taken of the recording', numberBetween('--seconds', 0.1, 1800))
    .option(
      '--population <n>',
      'instead: so many clips of people of all kinds, drawn at random: bodies, clothes, moves, rooms, light and lenses',
      numberBetween('--population', 1, 10_000),
    )
    .option('--seed <n>', 'which population', numberBetween('--seed', 0, 100_000), 1)
    .option('--motions <dir>', 'recorded motions (BVH) that some of a population perform')
    .addOption(
      new Option(
        '--depth [kind]',
        'what a depth camera would have seen, too (NAME.depth.mkv): with its faults or without',
      )
        .choices(['sensed', 'clean'])
        .preset('sensed'),
    )
    .requiredOption('--to <dir>', 'folder for NAME.mp4 and NAME.truth.json')
    .option('--workers <n>', 'threads that draw', (value) => Math.max(1, Number.parseInt(value, 10) || 1), 2)
    .action(async (script: string | undefined, options: SynthOptions) => {
      if (options.population !== undefined) {
        if (script !== undefined || options.motion !== undefined)
          throw new Error('A population is drawn at random: name no choreography and no recorded motion with it.');
        await makePopulation(Math.round(options.population), options);
        return;
      }
      const text = await choreography(script, options);
      const show = process.stderr.isTTY;
      const made = await makeClip(text, options.to, {
        workers: options.workers,
        depth: options.depth,
        onFrame: (done, frames) => show && process.stderr.write(`\rdrawing ${done} of ${frames} frames `),
      });
      if (show) process.stderr.write('\n');
      process.stdout.write(`${[made.video, ...(made.depth ? [made.depth] : []), ...made.truths].join('\n')}\n`);
    });
}
