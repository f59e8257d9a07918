import type { Command } from 'commander';
import { readFile } from 'node:fs/promises';
import { readBvh } from '@merry-shadow/core/formats/bvh/read-bvh';
import { measureMotion, type MotionFigures } from '@merry-shadow/core/measure/measure-motion';
import { readTruth } from '@merry-shadow/core/measure/truth';

const LABELS: Record<keyof MotionFigures, string> = {
  frames: 'frames compared',
  joints: 'joints compared',
  paMpjpeMm: 'PA-MPJPE, mm',
  rootAlignedMpjpeMm: 'root-aligned MPJPE, mm',
  wholeClipMpjpeMm: 'whole-clip aligned MPJPE, mm',
  jerk: 'mean jerk, m/s³',
  jerkRatio: 'jerk relative to truth',
  wristPeakLossPercent: 'loss of peak wrist speed, %',
  footSlideMmPerFrame: 'foot slide on contact, mm/frame',
  sinkingMm: 'sinking on contact, mm',
  hoveringMm: 'hovering on contact, mm',
  lowestSoleMm: 'lowest sole, mm',
  boneLengthVariationPercent: 'bone length variation, %',
};

export function addMeasure(program: Command): void {
  program
    .command('measure')
    .description('compare a motion with the truth of made-up footage')
    .argument('<motion>', 'BVH file with the humanoid bone names of VRM 1.0')
    .requiredOption('--truth <file>', 'truth file that ./run synth wrote')
    .option('--json', 'print JSON')
    .action(async (path: string, options: { truth: string; json?: boolean }) => {
      const read = (file: string): Promise<string> =>
        readFile(file, 'utf8').catch(() => {
          throw new Error(`There is no file ${file}.`);
        });
      const figures = measureMotion(readBvh(await read(path)), readTruth(await read(options.truth)));
      if (options.json) {
        process.stdout.write(`${JSON.stringify(figures, null, 2)}\n`);
        return;
      }
      for (const [key, label] of Object.entries(LABELS))
        process.stdout.write(`${label.padEnd(36)}${figures[key as keyof MotionFigures].toFixed(2)}\n`);
    });
}
