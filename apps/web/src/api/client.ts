import { z } from 'zod';
import { SeenPeople } from '@merry-shadow/contracts/clip';
import { ErrorView, ProductionView } from '@merry-shadow/contracts/production';
import type { NewTake, TakeChange } from '@merry-shadow/contracts/take';
import { solvedFromBytes } from '@merry-shadow/contracts/motion-bytes';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import type { TakeEdits } from '@merry-shadow/core/edits/take-edits';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { Observations } from '@merry-shadow/core/observe/observations';
import { ChangedElsewhereError, NeverTakenError } from './store-errors';

/** A request that was refused, with the server's sentence. */
export class RefusedError extends Error {
  override name = 'RefusedError';

  constructor(
    message: string,
    /** The server's code and status, where it answered. */
    readonly code: string | null = null,
    readonly status = 0,
  ) {
    super(message);
  }
}

async function call(path: string, init?: RequestInit): Promise<Response> {
  const response = await fetch(path, init);
  if (response.ok) return response;
  const body = ErrorView.safeParse(await response.json().catch(() => null));
  if (!body.success) throw new RefusedError(`The server answered with ${response.status}.`, null, response.status);
  throw new RefusedError(body.data.error.message, body.data.error.code, response.status);
}

const json = (method: string, body: unknown): RequestInit => ({
  method,
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
});

export async function fetchProduction(): Promise<ProductionView> {
  return ProductionView.parse(await (await call('/api/production')).json());
}

/**
 * Sends one file with progress.
 * @param onProgress bytes that have been sent.
 * @throws RefusedError with a sentence.
 */
export function sendFile(file: File, onProgress: (bytes: number) => void, signal: AbortSignal): Promise<void> {
  return new Promise((resolve, reject) => {
    const form = new FormData();
    form.append('file', file, file.name);
    const request = new XMLHttpRequest();
    const end = (error?: Error): void => {
      signal.removeEventListener('abort', stop);
      if (error) reject(error);
      else resolve();
    };
    const stop = (): void => request.abort();
    signal.addEventListener('abort', stop, { once: true });
    request.open('POST', '/api/clips');
    request.upload.onprogress = (event) => onProgress(Math.min(file.size, event.loaded));
    request.onabort = () => end(new RefusedError('Not sent: you stopped it.'));
    request.onerror = () => end(new RefusedError('It could not be sent: the server does not answer.'));
    request.onload = () => {
      if (request.status < 300) return end();
      const body = ErrorView.safeParse(safeJson(request.responseText));
      end(new RefusedError(body.success ? body.data.error.message : `The server answered with ${request.status}.`));
    };
    request.send(form);
  });
}

function safeJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

export const prepareAgain = (id: string): Promise<Response> => call(`/api/clips/${id}/prepare`, { method: 'POST' });
export const removeClip = (id: string): Promise<Response> => call(`/api/clips/${id}`, { method: 'DELETE' });
export const addTake = async (clipId: string, take: NewTake): Promise<string> =>
  ((await (await call(`/api/clips/${clipId}/takes`, json('POST', take))).json()) as { id: string }).id;
export const changeTake = (id: string, change: TakeChange): Promise<Response> =>
  call(`/api/takes/${id}`, json('PATCH', change));
/**
 * Stores edits that are a change of a revision. @returns the new revision.
 * @throws ChangedElsewhereError when another one is stored by now, NeverTakenError when they don't fit.
 */
export async function storeEdits(id: string, edits: TakeEdits, basedOn: number): Promise<number> {
  try {
    const answer = z.object({ editsRevision: z.number() });
    return answer.parse(await (await changeTake(id, { edits, basedOn })).json()).editsRevision;
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error;
    if (error.code === 'EDITS_CHANGED') throw new ChangedElsewhereError(error.message);
    throw error.status >= 400 && error.status < 500 ? new NeverTakenError(error.message) : error;
  }
}
export const removeTake = (id: string): Promise<Response> => call(`/api/takes/${id}`, { method: 'DELETE' });
export const captureTake = (id: string): Promise<Response> => call(`/api/takes/${id}/capture`, { method: 'POST' });
export const cancelTake = (id: string): Promise<Response> => call(`/api/takes/${id}/cancel`, { method: 'POST' });
export const fetchObservations = async (id: string): Promise<Observations> =>
  observationsFromBytes(new Uint8Array(await (await call(`/api/takes/${id}/observations`)).arrayBuffer()));
/**
 * @param signal of who waits: a solve for which nobody waits any more is broken off.
 * @throws RefusedError with a sentence when no motion can be made.
 */
export const fetchSolved = async (id: string, signal: AbortSignal): Promise<SolvedTake> =>
  solvedFromBytes(new Uint8Array(await (await call(`/api/takes/${id}/motion`, { signal })).arrayBuffer()));
export const fetchPeople = async (clipId: string, frame: number): Promise<SeenPeople> =>
  SeenPeople.parse(await (await call(`/api/clips/${clipId}/people?frame=${frame}`)).json());
export const clipFile = (id: string, file: 'proxy' | 'poster' | 'filmstrip'): string => `/api/clips/${id}/${file}`;
export const exportAddress = (id: string, format: string): string => `/api/takes/${id}/export?format=${format}`;
