import { readFile } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { TakeChange } from '@merry-shadow/contracts/take';

/** The demo production "Harbour Signals": clips and what is known of their performers. */
const DEMO: { file: string; takes: { name: string; settings: TakeChange['settings'] }[] }[] = [
  { file: 'flag-signals.mp4', takes: [{ name: 'Keeper sends the word', settings: { height: 1.78, fieldOfView: 54 } }] },
  {
    file: 'walk-the-planks.mp4',
    takes: [{ name: 'Apprentice walks the planks', settings: { height: 1.68, fieldOfView: 46 } }],
  },
  {
    file: 'rope-haul.mp4',
    takes: [
      {
        name: 'Keeper hauls the rope',
        settings: { height: 1.78, fieldOfView: 52, performer: { frame: 45, x: 269, y: 261 } },
      },
      {
        name: 'Apprentice hauls the rope',
        settings: { height: 1.68, fieldOfView: 52, performer: { frame: 45, x: 728, y: 289 } },
      },
    ],
  },
];

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

/** Loads the demo into an empty production through the public interface, and starts to capture it. */
export async function loadDemo(root: string, address: string): Promise<void> {
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
  for (const { file } of DEMO) {
    const form = new FormData();
    form.append('file', new Blob([await readFile(join(root, 'demo/clips', file))]), basename(file));
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
    for (const [i, { name, settings }] of takes.entries()) {
      const id =
        i === 0
          ? first.id
          : (
              await call<{ id: string }>(
                `/api/clips/${clip.id}/takes`,
                json('POST', { fromFrame: 0, untilFrame: clip.facts.frames }),
              )
            ).id;
      await call(`/api/takes/${id}`, json('PATCH', { name, settings }));
      await call(`/api/takes/${id}/capture`, { method: 'POST' });
    }
  }
}
