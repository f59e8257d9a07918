import { join } from 'node:path';
import { measureHints, type HintFigures } from '@merry-shadow/core/measure/measure-hints';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import { loneClips, population, scriptsIn, type PopulationChoice } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

/** What three frames with two true depths each bring: on the trials, or on a population, builder by builder. */
export async function measureDepthHints(options: PopulationChoice & { families?: boolean }): Promise<void> {
  const titles = ['clip', 'mm within half a second', 'with hints', 'of it', 'mm of the take', 'with hints', 'of it'];
  process.stdout.write(tableLine(titles) + tableLine(titles.map(() => '---')));
  const { scripts, folder } = options.families
    ? await population(options)
    : { scripts: await scriptsIn(join(ROOT, 'demo/trials')), folder: join(DATA, 'trials') };
  const families = new Map<string, HintFigures[]>();
  for await (const { name, observations, truth, given } of loneClips(scripts, folder)) {
    try {
      const row = measureHints(observations, truth, given);
      const family = options.families ? name.split('-')[0] : 'trials';
      families.set(family, [...(families.get(family) ?? []), row]);
      process.stdout.write(
        tableLine([name, ...cells(row.nearMm, row.nearHintedMm), ...cells(row.wholeMm, row.wholeHintedMm)]),
      );
    } catch (error) {
      // Nobody was convincingly seen.
      if (!(error instanceof SolveError)) throw error;
      process.stdout.write(tableLine([name, error.message]));
    }
  }
  process.stdout.write('\nmeans of the ratios: within half a second, whole take\n');
  for (const [family, rows] of families) {
    const ratio = (part: (row: HintFigures) => number): string =>
      (rows.reduce((sum, row) => sum + part(row), 0) / rows.length).toFixed(2);
    const [near, whole] = [
      ratio((row) => row.nearHintedMm / row.nearMm),
      ratio((row) => row.wholeHintedMm / row.wholeMm),
    ];
    process.stdout.write(tableLine([`${family} (${rows.length})`, near, whole]));
  }
}

const cells = (before: number, after: number): string[] => [
  before.toFixed(1),
  after.toFixed(1),
  (after / before).toFixed(2),
];
