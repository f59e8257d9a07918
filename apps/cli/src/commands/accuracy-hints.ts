import { join } from 'node:path';
import { measureHints, type HintFigures } from '@merry-shadow/core/measure/measure-hints';
import { loneClips, scriptsIn } from '../measured-clips';
import { DATA, ROOT } from '../paths';
import { tableLine } from '../table';

/** What three frames with two true depths each bring, on the trials. */
export async function measureDepthHints(): Promise<void> {
  const titles = ['clip', 'mm within half a second', 'with hints', 'of it', 'mm of the take', 'with hints', 'of it'];
  process.stdout.write(tableLine(titles) + tableLine(titles.map(() => '---')));
  const rows: HintFigures[] = [];
  const scripts = await scriptsIn(join(ROOT, 'demo/trials'));
  for await (const { name, observations, truth, given } of loneClips(scripts, join(DATA, 'trials'))) {
    const row = measureHints(observations, truth, given);
    rows.push(row);
    process.stdout.write(
      tableLine([name, ...cells(row.nearMm, row.nearHintedMm), ...cells(row.wholeMm, row.wholeHintedMm)]),
    );
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
