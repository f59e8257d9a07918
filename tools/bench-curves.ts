import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { Browser } from '@playwright/test';
import { build } from 'vite';

const [CURVES, FRAMES, KEYS] = [21, 10_000, 400];

/** How long the desk's curves take to be drawn anew, milliseconds: the whole take in view, and a part of it near by. */
export async function benchCurves(root: string, browser: Browser): Promise<[what: string, value: string][]> {
  const built = await build({
    configFile: false,
    define: { 'process.env.NODE_ENV': '"production"' },
    root,
    logLevel: 'silent',
    build: {
      write: false,
      lib: { entry: join(root, 'tools/bench-curves-page.ts'), formats: ['iife'], name: 'bench', fileName: 'bench' },
    },
  });
  const [{ output }] = built as { output: { type: string; code?: string }[] }[];
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.setContent('<canvas width="900" height="260"></canvas>');
  await page.addStyleTag({ content: await readFile(join(root, 'apps/web/src/theme/tokens.css'), 'utf8') });
  await page.addScriptTag({ content: output.find(({ type }) => type === 'chunk')?.code ?? '' });
  const times = await page.evaluate(
    (size) =>
      (
        window as unknown as {
          redraws: (size: readonly number[]) => Record<'whole' | 'wholePainted' | 'dragged' | 'near', number>;
        }
      ).redraws(size),
    [CURVES, FRAMES, KEYS],
  );
  await page.close();
  return [
    [`redraw of ${CURVES} curves × ${FRAMES} frames, ms`, times.whole.toFixed(1)],
    ['… painted without a graphics card', times.wholePainted.toFixed(1)],
    ['… while all keys of one are dragged', times.dragged.toFixed(1)],
    ['… near by, 300 frames in view', times.near.toFixed(1)],
  ];
}
