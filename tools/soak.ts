import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { ProductionView } from '@merry-shadow/contracts/production';
import { seededRandom } from '@merry-shadow/synth/random';
import { smallDisk, type SmallDisk } from './soak/disk';
import { Ledger } from './soak/ledger';
import { oddFiles } from './soak/odd-files';
import { call, contents, Person } from './soak/people';
import { mediaProcesses, verify } from './soak/verify';
import { startProduct, type RunningProduct } from './stage';

/** `./run soak`: whether anything gets lost, doubled, stuck or untrue while parts are killed and disks are full. */
const HELP = `./run soak [--minutes N] [--odd N] [--seed S]

Starts the product and works with it (uploads, edits, captures, cancels, deletions) while the worker, the server,
the database or all of them are killed at random and the disk is full now and then; then counts what was confirmed
and is lost, doubled, stuck or untrue. After that it brings in damaged and odd files; each must come to an end,
with a sentence where it can't be used, and nothing may crash.

  --minutes N  how long parts are killed (10)
  --odd N      how many damaged and odd files (1000)
  --seed S     another course of events (1)
`;
const args = process.argv.slice(2);
if (args.includes('--help')) {
  process.stdout.write(HELP);
  process.exit(0);
}
const number = (name: string, usual: number): number => {
  const value = args.includes(name) ? Number(args[args.indexOf(name) + 1]) : usual;
  if (Number.isFinite(value) && value >= 0) return value;
  process.stderr.write(`${name} takes a number.\n\n${HELP}`);
  process.exit(2);
};
const [minutes, odd, seed] = [number('--minutes', 10), number('--odd', 1000), number('--seed', 1)];
const root = process.env.MERRY_SHADOW_ROOT ?? process.cwd();
const say = (text: string): void => void process.stdout.write(`${text}\n`);
const sleep = (seconds: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, seconds * 1000));
/** Work must have come to rest so soon after the last kill, seconds. */
const REST_SECONDS = 120;
/** An odd file must have come to an end so soon, seconds; several are on their way at the same time. */
const ODD_SECONDS = 90;
const ODD_AT_ONCE = 4;

mkdirSync(join(root, '.data'), { recursive: true });
const work = mkdtempSync(join(root, '.data/soak-'));
const disk = smallDisk(join(work, 'data'));
let failures = 0;
let product: RunningProduct | null = null;
async function leave(): Promise<void> {
  disk.empty();
  await product?.stop();
  disk.remove();
  rmSync(work, { recursive: true, force: true });
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const)
  process.once(signal, () => void leave().finally(() => process.exit(130)));
try {
  product = await startProduct(root, disk.folder, 0, { MERRY_SHADOW_ROOM_MB: String(disk.roomMB) });
  if (minutes > 0) failures += await killAtRandom(product, disk);
  if (odd > 0) failures += await bringInOddFiles(product);
} finally {
  await leave();
}
process.exit(failures > 0 ? 1 : 0);

/** @returns how many faults were found. */
async function killAtRandom(
  { address, database, parts }: RunningProduct,
  { folder, real, fill, empty }: SmallDisk,
): Promise<number> {
  const random = seededRandom(seed);
  const ledger = new Ledger();
  const end = Date.now() + minutes * 60_000;
  const inside: string[] = [];
  const files = contents(root, work);
  const people = [true, false, false].map((edits) => new Person(address, files, ledger, random, edits));
  const working = people.map(async (person) => {
    for (; Date.now() < end; await sleep(0.05 + random() * 0.4))
      await person.act().catch((error: Error) => inside.push(error.message.slice(0, 300)));
  });
  const pause = (): Promise<void> => sleep(Math.min(2 + random() * 9, (end - Date.now()) / 1000));
  for (; Date.now() < end; await pause()) {
    const chance = random();
    if (chance < 0.12) {
      fill();
      ledger.counts.fullDisks++;
      await sleep(1 + random() * 4);
      empty();
      continue;
    }
    const victims = parts.filter((part) => chance > 0.88 || part === parts[Math.floor(random() * parts.length)]);
    for (const victim of victims) victim.current()?.kill('SIGKILL');
    ledger.counts.kills += victims.length;
  }
  await Promise.all(working);
  empty();
  await atRest(address);
  const faults = await verify(address, database, folder, ledger);
  const { counts } = ledger;
  say(
    `${minutes} minutes, seed ${seed}${real ? '' : ', disk by reserve'}: ${counts.kills} kills, ${counts.fullDisks} full disks; confirmed ${counts.uploads} uploads, ${counts.edits} edits, ${counts.captures} captures, ${counts.cancels} cancels, ${counts.deletions} deletions; ${counts.refused} requests unanswered or refused`,
  );
  for (const [kind, list] of [...Object.entries(faults), ['errors inside', inside] as const]) {
    say(`${kind}: ${list.length}`);
    for (const line of list.slice(0, 10)) say(`  ${line}`);
  }
  return Object.values(faults).reduce((sum, list) => sum + list.length, inside.length);
}

/** Waits until nothing waits or runs any more, or for as long as it may take. */
async function atRest(address: string): Promise<void> {
  for (const deadline = Date.now() + REST_SECONDS * 1000; Date.now() < deadline; await sleep(0.5)) {
    const view = await call<ProductionView>(address, 'GET', '/api/production').catch(() => null);
    const busy =
      !view ||
      view.clips.some(
        ({ state, judged }) => state === 'waiting' || state === 'preparing' || (state === 'ready' && !judged),
      ) ||
      view.takes.some(({ run }) => run?.state === 'waiting' || run?.state === 'running');
    if (!busy) return;
  }
}

/** @returns how many faults were found. */
async function bringInOddFiles({ address, parts }: RunningProduct): Promise<number> {
  const folder = join(work, 'whole');
  mkdirSync(folder, { recursive: true });
  const restarts = (): number => parts.reduce((sum, part) => sum + part.restarts(), 0);
  const before = restarts();
  const faults: string[] = [];
  const ends = { ready: 0, failed: 0, refused: 0 };
  const times: number[] = [];
  const files = oddFiles(root, folder, seed, odd);
  const bringIn = async (): Promise<void> => {
    for (const { name, content } of files) {
      const began = performance.now();
      const form = new FormData();
      form.append('file', new Blob([new Uint8Array(content)]), `${name}.mp4`);
      const sent = await call<ClipView>(address, 'POST', '/api/clips', form).catch((error: Error) => error);
      if (sent instanceof Error) {
        ends.refused++;
        if (!/"message":".{10,}\."/.test(sent.message)) faults.push(`${name}: ${sent.message.slice(0, 200)}`);
        continue;
      }
      const clip = await ended(address, sent.id);
      times.push((performance.now() - began) / 1000);
      if (!clip) faults.push(`${name}: no end after ${ODD_SECONDS} s`);
      else if (clip.state === 'ready' && clip.facts) ends.ready++;
      else if (clip.state === 'failed' && /^[A-Z].{10,}\.$/.test(clip.problem ?? '')) ends.failed++;
      else faults.push(`${name}: ${clip.state}, ${clip.problem}`);
      if (/could not be prepared:/.test(clip?.problem ?? '')) faults.push(`${name}: nobody foresaw ${clip?.problem}`);
      await call(address, 'DELETE', `/api/clips/${sent.id}`).catch((error: Error) =>
        faults.push(`${name}: ${error.message}`),
      );
    }
  };
  await Promise.all(Array.from({ length: ODD_AT_ONCE }, bringIn));
  if (restarts() > before) faults.push(`${restarts() - before} crashes`);
  await sleep(1);
  faults.push(...mediaProcesses(disk.folder).map((name) => `${name} still runs`));
  times.sort((a, b) => a - b);
  say(
    `${odd} damaged and odd files: ${ends.ready} brought in, ${ends.failed} told with a sentence, ${ends.refused} refused; median ${times[times.length >> 1]?.toFixed(1)} s, longest ${times.at(-1)?.toFixed(1)} s; faults: ${faults.length}`,
  );
  for (const line of faults.slice(0, 20)) say(`  ${line}`);
  return faults.length;
}

async function ended(address: string, id: string): Promise<ClipView | null> {
  for (const deadline = Date.now() + ODD_SECONDS * 1000; Date.now() < deadline; await sleep(0.2)) {
    const { clips } = await call<ProductionView>(address, 'GET', '/api/production');
    const clip = clips.find((item) => item.id === id);
    if (clip?.state === 'ready' || clip?.state === 'failed') return clip;
  }
  return null;
}
