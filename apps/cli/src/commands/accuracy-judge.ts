import { existsSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { JudgedKind } from '@merry-shadow/core/judge/judge';
import { Looks } from '@merry-shadow/core/judge/looks';
import { JUDGES } from '@merry-shadow/core/judge/registry';
import { cleanClip, faultyClip, FOOTAGE_FAULTS } from '@merry-shadow/synth/population/faults';
import { makeClip } from '@merry-shadow/synth/make-clip';
import { openNets } from '@merry-shadow/tracker/node/open-nets';
import type { Nets } from '@merry-shadow/tracker/runtime/net';
import { DATA, NETWORK_CACHE } from '../paths';
import { tableLine } from '../table';
import { looksOf } from './judge';

/** Judgements that say what is there, and are no fault that a clip was made with. */
const TOLD_ANYWAY = new Set<JudgedKind>(['pose', 'face']);

/** How well faults of footage are found: clips of a population, each without a fault and with each of them. */
export async function measureJudging({ clips, seed }: { clips: number; seed: number }): Promise<void> {
  const nets = await openNets(NETWORK_CACHE);
  const found = new Map<string, { planted: number; found: number; wrong: number }>();
  const shares: number[] = [];
  const of = (kind: string) => {
    const row = found.get(kind) ?? { planted: 0, found: 0, wrong: 0 };
    found.set(kind, row);
    return row;
  };
  for (let index = 0; index < clips; index++)
    for (const fault of [null, ...FOOTAGE_FAULTS]) {
      const script = fault ? faultyClip(seed, index, fault) : cleanClip(seed, index);
      const { looks, share } = await clipLooks(script, nets);
      if (share !== null) shares.push(share);
      const told = new Set(JUDGES.filter((judge) => judge.find(looks).length > 0).map(({ kind }) => kind));
      if (fault) {
        of(fault).planted++;
        if (told.has(fault)) of(fault).found++;
      }
      const wrong = [...told].filter((kind) => kind !== fault && !TOLD_ANYWAY.has(kind));
      // What a fault brings with it is no mistake: only clips without one show what is told for nothing.
      if (!fault) for (const kind of wrong) of(kind).wrong++;
      process.stdout.write(
        `${script.name.padEnd(22)}${[...told].filter((kind) => !TOLD_ANYWAY.has(kind)).join(', ') || '–'}\n`,
      );
    }
  process.stdout.write('\nfault, clips with it, found, told in clips without a fault\n');
  for (const [kind, { planted, found: hits, wrong }] of found)
    process.stdout.write(
      tableLine([kind, String(planted), planted ? (hits / planted).toFixed(2) : '–', String(wrong)]),
    );
  if (shares.length > 0)
    process.stdout.write(
      `looking took ${(100 * shares.sort((a, b) => a - b)[shares.length >> 1]).toFixed(0)} % of a clip's length (median)\n`,
    );
}

/** What is seen of a clip; it is made and looked at once. */
async function clipLooks(
  script: ReturnType<typeof cleanClip>,
  nets: Nets,
): Promise<{ looks: Looks; share: number | null }> {
  const folder = join(DATA, 'judged');
  const kept = join(folder, `${script.name}.looks.json`);
  const parsed = Looks.safeParse(JSON.parse(await readFile(kept, 'utf8').catch(() => 'null')));
  if (parsed.success) return { looks: parsed.data, share: null };
  const video = join(folder, `${script.name}.mp4`);
  if (!existsSync(video)) await makeClip(JSON.stringify(script), folder, { workers: 2 });
  const { looks, seconds } = await looksOf(video, nets);
  await writeFile(kept, JSON.stringify(looks));
  return { looks, share: (seconds * looks.rate) / looks.frames };
}
