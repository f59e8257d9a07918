import { readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { TakeChange } from '@merry-shadow/contracts/take';
import { depthRecording } from './depth-recording';
import { giveResults } from './demo-results';

/** Who performs in the demo production "Harbour Signals". */
const CAST = {
  keeper: { name: 'The keeper', height: 1.78, colour: '#b4432f' },
  apprentice: { name: 'The apprentice', height: 1.68, colour: '#c99a1e' },
};

interface DemoTake {
  name: string;
  performer: keyof typeof CAST;
  /** What was tracked of it, in demo/tracked; left out, it is not tracked yet. */
  tracked?: string;
  /** It is left for the person to track, in tests, too. */
  left?: true;
  settings: TakeChange['settings'];
}

/** The recording of a depth camera, which is made when the demo is loaded, and how long it is, seconds. */
const DEPTH_CLIP = 'haul-toward-the-lamp.mkv';
const DEPTH_SECONDS = 8;

/** Clips of the demo, and takes at every stage. */
const DEMO: { file: string; takes: DemoTake[] }[] = [
  {
    file: 'flag-signals.mp4',
    takes: [
      {
        name: 'Keeper sends the word',
        performer: 'keeper',
        tracked: 'keeper-sends-the-word',
        settings: { fieldOfView: 54 },
      },
    ],
  },
  {
    file: 'walk-the-planks.mp4',
    takes: [
      {
        name: 'Apprentice walks the planks',
        performer: 'apprentice',
        tracked: 'apprentice-walks-the-planks',
        settings: { fieldOfView: 46 },
      },
    ],
  },
  {
    file: 'call-over-the-wind.mp4',
    takes: [
      {
        name: 'Keeper calls over the wind',
        performer: 'keeper',
        tracked: 'keeper-calls-over-the-wind',
        settings: { fieldOfView: 44 },
      },
    ],
  },
  {
    file: 'rope-haul.mp4',
    takes: [
      {
        name: 'Keeper hauls the rope',
        performer: 'keeper',
        settings: { fieldOfView: 52, performer: { frame: 45, x: 269, y: 261 } },
      },
      {
        name: 'Apprentice hauls the rope',
        performer: 'apprentice',
        settings: { fieldOfView: 52, performer: { frame: 45, x: 728, y: 289 } },
      },
    ],
  },
  {
    file: DEPTH_CLIP,
    takes: [{ name: 'Apprentice hauls toward the lamp', performer: 'apprentice', left: true, settings: {} }],
  },
  {
    file: 'squall.mp4',
    takes: [{ name: 'Keeper in the squall', performer: 'keeper', left: true, settings: {} }],
  },
  {
    file: 'signals-by-phone.mp4',
    takes: [
      { name: 'Apprentice practises signals', performer: 'apprentice', left: true, settings: { fieldOfView: 66 } },
    ],
  },
  {
    file: 'rest-on-the-crate.mp4',
    takes: [{ name: 'Keeper rests on the crate', performer: 'keeper', left: true, settings: { fieldOfView: 52 } }],
  },
];

/** Takes that come with what was tracked of them, and the files that hold it. */
export const TRACKED_TAKES = DEMO.flatMap(({ file, takes }) =>
  takes.flatMap(({ name, tracked }) => (tracked ? [{ file, name, tracked }] : [])),
);
export const resultsOf = (root: string, tracked: string): string => join(root, 'demo/tracked', `${tracked}.obs.gz`);

const contentOf = (root: string, file: string): Promise<Buffer> =>
  file === DEPTH_CLIP ? depthRecording(root, DEPTH_SECONDS) : readFile(join(root, 'demo/clips', file));

const callsTo =
  (address: string) =>
  async <T>(path: string, init?: RequestInit): Promise<T> => {
    const response = await fetch(address + path, init);
    if (!response.ok) throw new Error(`${path}: ${await response.text()}`);
    return (response.status === 204 ? null : await response.json()) as T;
  };

/** Waits until nothing waits or runs any more. @throws Error when that takes longer than six minutes. */
export async function untilCaptured(address: string): Promise<void> {
  for (
    const deadline = Date.now() + 360_000;
    Date.now() < deadline;
    await new Promise((resolve) => setTimeout(resolve, 300))
  ) {
    const { takes } = await callsTo(address)<ProductionView>('/api/production');
    if (takes.every((take) => take.run?.state !== 'waiting' && take.run?.state !== 'running')) return;
  }
  throw new Error('The demo takes were not captured within six minutes.');
}

/**
 * Loads the demo into an empty production through the public interface. Some takes come with what was tracked of them.
 * @param database where that is put; null tracks them. @param all tracks the others, too, but for those that are left for the person.
 */
export async function loadDemo(root: string, address: string, database: string | null, all = false): Promise<void> {
  const call = callsTo(address);
  const production = (): Promise<ProductionView> => call('/api/production');
  const { id, clips } = await production();
  if (clips.length > 0) return;
  process.stderr.write('Loading the demo production "Harbour Signals"\n');
  const json = (method: string, body: object): RequestInit => ({
    method,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  await call(`/api/productions/${id}`, json('PATCH', { name: 'Harbour Signals' }));
  const cast: Record<string, string> = {};
  for (const [key, performer] of Object.entries(CAST))
    cast[key] = (await call<{ id: string }>(`/api/productions/${id}/performers`, json('POST', performer))).id;
  for (const { file } of DEMO) {
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(await contentOf(root, file))]), basename(file));
    await call('/api/clips', { method: 'POST', body: form });
  }
  let view = await production();
  for (
    const deadline = Date.now() + 120_000;
    view.takes.length < DEMO.length && Date.now() < deadline;
    view = await production()
  )
    await new Promise((resolve) => setTimeout(resolve, 300));
  for (const { file, takes } of DEMO) {
    const clip = view.clips.find((item) => item.name === file);
    const first = view.takes.find((item) => item.clipId === clip?.id);
    if (!clip?.facts || !first)
      throw new Error(`The demo clip ${file} could not be prepared: ${clip?.problem ?? 'no reason given'}`);
    for (const [i, { name, performer, tracked, left, settings }] of takes.entries()) {
      const id =
        i === 0
          ? first.id
          : (
              await call<{ id: string }>(
                `/api/clips/${clip.id}/takes`,
                json('POST', { fromFrame: 0, untilFrame: clip.facts.frames }),
              )
            ).id;
      const { height } = CAST[performer];
      await call(
        `/api/takes/${id}`,
        json('PATCH', { name, settings: { ...settings, height, performedBy: cast[performer] } }),
      );
      if (tracked && database) await giveResults(database, id, resultsOf(root, tracked));
      else if ((all && !left) || tracked) await call(`/api/takes/${id}/capture`, { method: 'POST' });
    }
  }
}
