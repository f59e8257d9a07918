import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { closeNets, openNets } from '../src/node/open-nets';
import type { Nets } from '../src/runtime/net';

/** What tests with real footage share: a folder of their own, clips made by ffmpeg, and open networks. */
export interface Workbench {
  folder: string;
  nets: Nets;
  /** Makes a file in the folder. @param args of ffmpeg, but for the output. */
  make: (name: string, args: readonly string[]) => string;
}

export function workbench(): Workbench {
  const folder = mkdtempSync(join(tmpdir(), 'merry-tracker-'));
  const bench: Workbench = {
    folder,
    nets: null as unknown as Nets, // opened before the first test
    make: (name, args) => {
      const path = join(folder, name);
      execFileSync('ffmpeg', ['-y', '-loglevel', 'error', ...args, path]);
      return path;
    },
  };
  beforeAll(async () => {
    bench.nets = await openNets('.data/networks');
  });
  afterAll(async () => {
    await closeNets(bench.nets);
    rmSync(folder, { recursive: true });
  });
  return bench;
}

export const CLIP = 'demo/clips/walk-the-planks.mp4';
export const WALK = { path: CLIP, width: 960, height: 540, rate: 30, even: true };
