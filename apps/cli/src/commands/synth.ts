import type { Command } from 'commander';
import { readFile } from 'node:fs/promises';
import { makeClip } from '@merry-shadow/synth/make-clip';

export function addSynth(program: Command): void {
  program
    .command('synth')
    .description('render a choreography to a video with its truth beside it')
    .argument('<script>', 'choreography file (JSON), see demo/choreography and docs/formats.md')
    .requiredOption('--to <dir>', 'folder for NAME.mp4 and NAME.truth.json')
    .option('--workers <n>', 'threads that draw', (value) => Math.max(1, Number.parseInt(value, 10) || 1), 2)
    .action(async (script: string, options: { to: string; workers: number }) => {
      const text = await readFile(script, 'utf8').catch(() => {
        throw new Error(`There is no choreography at ${script}.`);
      });
      const show = process.stderr.isTTY;
      const made = await makeClip(text, options.to, {
        workers: options.workers,
        onFrame: (done, frames) => show && process.stderr.write(`\rdrawing ${done} of ${frames} frames `),
      });
      if (show) process.stderr.write('\n');
      process.stdout.write(`${[made.video, ...made.truths].join('\n')}\n`);
    });
}
