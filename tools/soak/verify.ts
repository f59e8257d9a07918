import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Client } from 'pg';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { OpenTakeView } from '@merry-shadow/contracts/take';
import { recordsOf } from '@merry-shadow/core/edits/registry';
import { probeClip } from '@merry-shadow/tracker/node/probe';
import { clipFiles, mediaFolder } from '../../apps/server/src/media/media-folder';
import { UNSET, type Ledger } from './ledger';
import { call } from './people';

/** What was found wrong, by kind. */
export interface Faults {
  lost: string[];
  doubled: string[];
  stuck: string[];
  untrue: string[];
}

interface Row {
  id: string;
  hash: string;
  take_id: string;
  state: string;
  from_frame: number;
  until_frame: number;
  frames: number;
  pieces: number;
  seen: string | null;
}

/** Holds the product's state against what it confirmed, once all work has come to rest. */
export async function verify(address: string, database: string, data: string, ledger: Ledger): Promise<Faults> {
  const faults: Faults = { lost: [], doubled: [], stuck: [], untrue: [] };
  const view = await call<ProductionView>(address, 'GET', '/api/production');
  const client = new Client({ connectionString: database });
  await client.connect();
  const rows = async (text: string): Promise<Row[]> => (await client.query<Row>(text)).rows;
  const hashes = await rows('select id, hash, state from clips');
  // Of each run its frames, and a digest of all that was seen.
  const runs = await rows(`
    select runs.id, runs.take_id, runs.state, runs.from_frame, runs.until_frame, clips.hash,
      coalesce(sum(chunks.frames) filter (where chunks.part = 'body'), 0)::int as frames,
      (count(*) filter (where chunks.part = 'body'))::int as pieces,
      md5(string_agg(md5(chunks.data), '' order by chunks.first, chunks.part)) as seen
    from runs join takes on takes.id = runs.take_id join clips on clips.id = takes.clip_id
    left join observation_chunks chunks on chunks.run_id = runs.id group by runs.id, clips.hash`);
  const open = await rows(`select take_id as id from runs where state in ('waiting', 'running')`);
  await client.end();

  for (const [id] of ledger.clips) {
    const clip = view.clips.find((item) => item.id === id);
    if (!clip && !ledger.maybeGone.has(id)) faults.lost.push(`clip ${id}`);
    if (clip && clip.state === 'failed') faults.untrue.push(`a good clip failed: ${clip.problem}`);
  }
  for (const clip of view.clips) {
    if (ledger.gone.has(clip.id)) faults.untrue.push(`clip ${clip.id} was deleted and is there`);
    if (clip.state === 'waiting' || clip.state === 'preparing')
      faults.stuck.push(`clip ${clip.id} ${clip.state} ${clip.problem}`);
    const takes = view.takes.filter((take) => take.clipId === clip.id);
    if (clip.state === 'ready' && takes.length !== 1) faults.doubled.push(`clip ${clip.id} has ${takes.length} takes`);
  }
  for (const hash of new Set(hashes.map((row) => row.hash))) {
    const files = clipFiles(data, hash);
    const ready = view.clips.find(({ id }) =>
      hashes.some((row) => row.id === id && row.hash === hash && row.state === 'ready'),
    );
    if (!ready) continue;
    const proxy = await probeClip(files.proxy).catch((error: Error) => error);
    if (proxy instanceof Error) faults.lost.push(`proxy of ${hash.slice(0, 8)}: ${proxy.message}`);
    else if (proxy.frames !== ready.facts?.frames)
      faults.untrue.push(`proxy of ${hash.slice(0, 8)} has ${proxy.frames} frames`);
    const extra = readdirSync(files.folder).filter((name) => name !== 'original' && name !== 'prepared');
    if (extra.length > 0) faults.doubled.push(`left in ${hash.slice(0, 8)}: ${extra.join(' ')}`);
  }
  for (const start of existsSync(mediaFolder(data)) ? readdirSync(mediaFolder(data)) : [])
    for (const hash of readdirSync(join(mediaFolder(data), start)))
      if (!hashes.some((row) => row.hash === hash)) faults.doubled.push(`files of no clip: ${hash.slice(0, 8)}`);

  for (const take of view.takes) {
    const { height } = take.settings;
    const { edits } = await call<OpenTakeView>(address, 'GET', `/api/takes/${take.id}`);
    const [pass] = recordsOf(edits.records, 'pass');
    for (const [field, value] of Object.entries({ height, passes: pass?.range?.[0] }))
      if (!isAllowed(ledger, take.id, field, value)) faults.lost.push(`${field} of ${take.id} is ${value}`);
  }
  const takesNow = new Set(view.takes.map(({ id }) => id));
  for (const [id, takeId] of ledger.runs)
    if (takesNow.has(takeId) && !runs.some((run) => run.id === id)) faults.lost.push(`run ${id}`);
  if (new Set(open.map(({ id }) => id)).size < open.length) faults.doubled.push('two open runs of one take');
  const seen = new Map<string, string | null>();
  for (const run of runs) {
    const what = `run ${run.id} ${run.state}`;
    if (run.state === 'waiting' || run.state === 'running') faults.stuck.push(what);
    if (run.state === 'failed') faults.untrue.push(`${what} of a good clip`);
    if (ledger.cancelled.has(run.id) && run.state !== 'cancelled')
      faults.untrue.push(`${what}, though it was cancelled`);
    if (run.state !== 'done') continue;
    if (run.frames !== run.until_frame - run.from_frame) faults.untrue.push(`${what} holds ${run.frames} frames`);
    const key = `${run.hash} ${run.from_frame} ${run.until_frame}`;
    if (seen.has(key) && seen.get(key) !== run.seen)
      faults.untrue.push(`${what} saw something else than another of the same frames`);
    seen.set(key, run.seen);
  }
  for (const name of mediaProcesses(data)) faults.stuck.push(`${name} still runs`);
  return faults;
}

function isAllowed({ values }: Ledger, takeId: string, field: string, value: unknown): boolean {
  const allowed = values.get(`${takeId} ${field}`);
  return !allowed || allowed.has(value === null || value === undefined ? UNSET : JSON.stringify(value));
}

/** Programs of ours that work on files of a data folder. */
export function mediaProcesses(data: string): string[] {
  return readdirSync('/proc').flatMap((name) => {
    if (!/^\d+$/.test(name)) return [];
    try {
      const command = readFileSync(`/proc/${name}/cmdline`, 'utf8');
      return /^\S*ff(mpeg|probe)/.test(command) && command.includes(data) ? [command.slice(0, 7)] : [];
    } catch {
      return [];
    }
  });
}
