import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { ClipView } from '@merry-shadow/contracts/clip';
import type { ProductionView } from '@merry-shadow/contracts/production';
import type { Ledger } from './ledger';

/** A request that was not confirmed. */
class Unconfirmed extends Error {
  constructor(
    message: string,
    /** The server's answer, or null when there was none. */
    readonly status: number | null,
    options?: ErrorOptions,
  ) {
    super(message, options);
  }
}

export async function call<T>(address: string, method: string, path: string, body?: FormData | object): Promise<T> {
  const form = body instanceof FormData;
  const response = await fetch(address + path, {
    method,
    body: form || body === undefined ? (body as FormData | undefined) : JSON.stringify(body),
    headers: form || body === undefined ? {} : { 'content-type': 'application/json' },
    signal: AbortSignal.timeout(60_000),
  }).catch((error: Error) => {
    throw new Unconfirmed(error.message, null, { cause: error });
  });
  const text = await response.text().catch(() => '');
  if (!response.ok) throw new Unconfirmed(text, response.status);
  return (text ? JSON.parse(text) : null) as T;
}

/** Short pieces of the demo clips, some of them the same: what people bring in. */
export function contents(root: string, folder: string): Buffer[] {
  return [1, 3, 5, 7].map((start) => {
    const path = join(folder, `part-${start}.mp4`);
    const from = join(root, 'demo/clips/walk-the-planks.mp4');
    const args = [
      '-loglevel',
      'error',
      '-y',
      '-ss',
      String(start),
      '-t',
      '0.8',
      '-i',
      from,
      '-vf',
      'scale=480:-2',
      path,
    ];
    execFileSync('ffmpeg', args);
    return readFileSync(path);
  });
}

/** Somebody who works with the product while parts of it are killed, and writes down what was confirmed. */
export class Person {
  constructor(
    private readonly address: string,
    private readonly parts: readonly Buffer[],
    private readonly ledger: Ledger,
    private readonly random: () => number,
    /** One alone edits: of two changes of one field nobody knows which came last. */
    private readonly edits: boolean,
  ) {}

  /** Does one thing. */
  async act(): Promise<void> {
    const chance = this.random();
    try {
      if (this.edits) await this.edit();
      else if (chance < 0.45) await this.bringIn();
      else if (chance < 0.75) await this.capture();
      else if (chance < 0.88) await this.cancel();
      else await this.remove();
    } catch (error) {
      if (!(error instanceof Unconfirmed)) throw error;
      this.ledger.counts.refused++;
      if (error.status === 500) throw new Error(`Something went wrong inside: ${error.message}`, { cause: error });
    }
  }

  private production(): Promise<ProductionView> {
    return call(this.address, 'GET', '/api/production');
  }

  private any<T>(list: readonly T[]): T | undefined {
    return list[Math.floor(this.random() * list.length)];
  }

  private async bringIn(): Promise<void> {
    if ((await this.production()).clips.length > 25) return this.remove();
    const content = Math.floor(this.random() * this.parts.length);
    const form = new FormData();
    form.append('file', new Blob([new Uint8Array(this.parts[content])]), `part ${content}.mp4`);
    const { id } = await call<ClipView>(this.address, 'POST', '/api/clips', form);
    this.ledger.clips.set(id, { content });
    this.ledger.counts.uploads++;
  }

  private async edit(): Promise<void> {
    const take = this.any((await this.production()).takes);
    if (!take) return;
    const height = Number((1 + this.random()).toFixed(4));
    const start = Math.floor(this.random() * 8);
    const [field, value, body] =
      this.random() < 0.5
        ? (['height', height, { settings: { height } }] as const)
        : ([
            'passes',
            start,
            { edits: { records: [{ kind: 'pass', id: 'smooth', pass: 'smooth', range: [start, start + 9] }] } },
          ] as const);
    this.ledger.ask(take.id, field, value);
    await call(this.address, 'PATCH', `/api/takes/${take.id}`, body);
    this.ledger.confirm(take.id, field, value);
    this.ledger.counts.edits++;
  }

  private async capture(): Promise<void> {
    const idle = (await this.production()).takes.filter(
      ({ run }) => run?.state !== 'waiting' && run?.state !== 'running',
    );
    const take = this.any(idle);
    if (!take) return;
    await call(this.address, 'PATCH', `/api/takes/${take.id}`, { settings: { hands: false, face: false } });
    const { id } = await call<{ id: string }>(this.address, 'POST', `/api/takes/${take.id}/capture`);
    this.ledger.runs.set(id, take.id);
    this.ledger.counts.captures++;
  }

  private async cancel(): Promise<void> {
    const take = this.any((await this.production()).takes.filter(({ run }) => run?.state === 'running'));
    if (!take?.run) return;
    await call(this.address, 'POST', `/api/takes/${take.id}/cancel`);
    this.ledger.cancelled.add(take.run.id);
    this.ledger.counts.cancels++;
  }

  private async remove(): Promise<void> {
    const clip = this.any((await this.production()).clips);
    if (!clip) return;
    this.ledger.maybeGone.add(clip.id);
    await call(this.address, 'DELETE', `/api/clips/${clip.id}`);
    this.ledger.gone.add(clip.id);
    this.ledger.counts.deletions++;
  }
}
