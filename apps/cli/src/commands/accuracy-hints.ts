import { join } from 'node:path';
import { measureHints, type HintFigures } from '@merry-shadow/core/measure/measure-hints';
import { SolveError } from '@merry-shadow/core/solve/solve-take';
import { fieldOfViewOf, measuredClips, scriptsIn } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

/** What three frames with two true depths each bring, on the trials. */
export async function measureDepthHints(): Promise<void> {
  const titles = ['clip', 'mm within half a second', 'with hints', 'of it', 'mm of the take', 'with hints', 'of it'];
  process.stdout.write(tableLine(titles) + tableLine(titles.map(() => '---')));
  const rows: HintFigures[] = [];
  for await (const { name, tracked, truths } of measuredClips(
    await scriptsIn(join(ROOT, 'demo/trials')),
    join(DATA, 'trials'),
  )) {
    if (truths.length > 1) continue;
    try {
      const [truth] = truths;
      const row = measureHints(tracked[0], truth, { height: truth.height, fieldOfView: fieldOfViewOf(truth) });
      rows.push(row);
      process.stdout.write(
        tableLine([name, ...cells(row.nearMm, row.nearHintedMm), ...cells(row.wholeMm, row.wholeHintedMm)]),
      );
    } catch (error) {
      if (!(error instanceof SolveError)) throw error;
      process.stdout.write(tableLine([name, error.message]));
    }
  }
  const ratio = (part: (row: HintFigures) => number): string =>
    (rows.reduce((sum, row) => sum + part(row), 0) / rows.length).toFixed(2);
  process.stdout.write(
    `\nmean of the ratios: within half a second ${ratio((row) => row.nearHintedMm / row.nearMm)}, whole take ${ratio((row) => row.wholeHintedMm / row.wholeMm)}\n`,
  );
}

const cells = (before: number, after: number): string[] => [
  before.toFixed(1),
  after.toFixed(1),
  (after / before).toFixed(2),
];
