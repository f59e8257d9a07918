import { join } from 'node:path';
import { measureMending, type MendingFigures, type MendingResult } from '@merry-shadow/core/measure/measure-mending';
import type { SnagKind } from '@merry-shadow/core/snags/snag';
import { SolveError, solveTake } from '@merry-shadow/core/solve/solve-take';
import { loneClips, population, scriptsIn, type PopulationChoice } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

/**
 * What is told as a snag in whole solved takes, and what mending makes of it: the trials and a population, with recorded motions among its people where there are any.
 * Each mending is held against the truth.
 */
export async function measureMendings(options: PopulationChoice): Promise<void> {
  const sets = [
    { scripts: await scriptsIn(join(ROOT, 'demo/trials')), folder: join(DATA, 'trials') },
    await population(options),
  ];
  const titles = ['clip', 'snags', 'after mending all', 'first proposals untried', 'mm', 'mm after', 'mm untried'];
  process.stdout.write(tableLine(titles) + tableLine(titles.map(() => '---')));
  const results: MendingResult[] = [];
  for (const { scripts, folder } of sets) {
    for await (const { name, observations, truth, given } of loneClips(scripts, folder)) {
      try {
        const result = measureMending(solveTake(observations, given), truth);
        results.push(result);
        process.stdout.write(tableLine([name, ...cells(result)]));
      } catch (error) {
        // Nobody was convincingly seen.
        if (!(error instanceof SolveError)) throw error;
        process.stdout.write(tableLine([name, error.message]));
      }
    }
  }
  const sum = (key: Exclude<keyof MendingResult, 'kinds'>): number => results.reduce((all, row) => all + row[key], 0);
  const mean = (key: 'beforeMm' | 'afterMm' | 'untriedMm'): number => sum(key) / results.length;
  process.stdout.write(
    tableLine([
      '**all**',
      ...cells({
        before: sum('before'),
        after: sum('after'),
        untried: sum('untried'),
        beforeMm: mean('beforeMm'),
        afterMm: mean('afterMm'),
        untriedMm: mean('untriedMm'),
      }),
    ]),
  );
  process.stdout.write(
    `\nclips with more snags after mending all: ${results.filter((row) => row.after > row.before).length}\n\n`,
  );
  process.stdout.write(kindTable(results));
}

const cells = (row: Omit<MendingResult, 'kinds'>): string[] => [
  String(row.before),
  String(row.after),
  String(row.untried),
  ...[row.beforeMm, row.afterMm, row.untriedMm].map((value) => value.toFixed(2)),
];

/** For each kind, how many that one would see are told, and are acting in truth; how many could be mended, and how many of those lie farther from the truth. */
function kindTable(results: readonly MendingResult[]): string {
  const kinds = new Map<SnagKind, MendingFigures>();
  for (const result of results)
    for (const [kind, figures] of Object.entries(result.kinds) as [SnagKind, MendingFigures][]) {
      const all = kinds.get(kind) ?? { told: 0, acting: 0, offered: 0, farther: 0 };
      kinds.set(kind, {
        told: all.told + figures.told,
        acting: all.acting + figures.acting,
        offered: all.offered + figures.offered,
        farther: all.farther + figures.farther,
      });
    }
  const titles = [
    'kind',
    'told (as grave as one sees)',
    'of them acting in truth',
    'could be mended',
    'of them farther from truth',
  ];
  const rows = [...kinds].map(([kind, row]) => [kind, row.told, row.acting, row.offered, row.farther].map(String));
  return [titles, titles.map(() => '---'), ...rows].map(tableLine).join('');
}
