import { z } from 'zod';
import { SeenPeople, type ClipChange } from '@merry-shadow/contracts/clip';
import type { DepthCameraList } from '@merry-shadow/contracts/depth-camera';
import { HandShapeView } from '@merry-shadow/contracts/hand-shape';
import { MediaView, type MediaPart } from '@merry-shadow/contracts/media';
import {
  PerformerView,
  PresetView,
  type NewPerformer,
  type PerformerChange,
  type PresetSettings,
} from '@merry-shadow/contracts/performer';
import { ErrorView, ProductionName, type ProductionChange } from '@merry-shadow/contracts/production';
import {
  OpenTakeView,
  PastRun,
  RevisionView,
  type NewTake,
  type SharedSettings,
  type TakeChange,
  type TakeListing,
} from '@merry-shadow/contracts/take';
import { TakeState } from '@merry-shadow/contracts/take-work';
import { solvedFromBytes } from '@merry-shadow/contracts/motion-bytes';
import { observationsFromBytes } from '@merry-shadow/contracts/observation-bytes';
import { Looks } from '@merry-shadow/core/judge/looks';
import type { OwnHandShape } from '@merry-shadow/core/passes/shape-hand';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { ObservationGroup, Observations } from '@merry-shadow/core/observe/observations';
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

const read = async <T>(schema: z.ZodType<T>, path: string, init?: RequestInit): Promise<T> =>
  schema.parse(await (await call(path, init)).json());

/** Whether a production is there; true when the server does not answer. */
export const isThere = async (production: string): Promise<boolean> =>
  call(`/api/production?id=${production}`).then(
    () => true,
    (error: Error) => !(error instanceof RefusedError && error.code === 'PRODUCTION_NOT_FOUND'),
  );
export const addProduction = (name: string): Promise<ProductionName> =>
  read(ProductionName, '/api/productions', json('POST', { name }));
export const changeProduction = (id: string, change: z.input<typeof ProductionChange>): Promise<ProductionName> =>
  read(ProductionName, `/api/productions/${id}`, json('PATCH', change));

/** Where a file goes: into a production, or in the place of a clip's file. */
export type SentTo =
  | {
      production: string;
      known: 'refuse' | 'add';
      /** Pictures a second, where the file is pictures one behind the other. */
      pictures?: number;
      /** Where depth begins, bytes, where the file is a clip with its depth behind it. */
      depthFrom?: number;
    }
  | { replaces: string };

/**
 * Sends one file with progress.
 * @param to where it is brought in.
 * @param onProgress bytes that have been sent.
 * @throws RefusedError with a sentence.
 */
export function sendFile(
  file: Blob & { name: string },
  to: SentTo,
  onProgress: (bytes: number) => void,
  signal: AbortSignal,
): Promise<void> {
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
    request.open(
      'POST',
      'replaces' in to
        ? `/api/clips/${to.replaces}/replace`
        : `/api/clips?production=${to.production}&known=${to.known}${to.pictures ? `&pictures=${to.pictures}` : ''}${to.depthFrom ? `&depthFrom=${to.depthFrom}` : ''}`,
    );
    request.upload.onprogress = (event) => onProgress(Math.min(file.size, event.loaded));
    request.onabort = () => end(new RefusedError('Not sent: you stopped it.'));
    request.onerror = () => end(new RefusedError('It could not be sent: the server does not answer.'));
    request.onload = () => {
      if (request.status < 300) return end();
      const body = ErrorView.safeParse(safeJson(request.responseText));
      const { message, code } = body.success
        ? body.data.error
        : { message: `The server answered with ${request.status}.`, code: null };
      end(new RefusedError(message, code, request.status));
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
export const beginRecording = async (production: string, name: string): Promise<string> =>
  ((await (await call('/api/recordings', json('POST', { production, name }))).json()) as { id: string }).id;
/** Sends a piece of a recording to its place, in bytes from the beginning. */
export const sendPiece = (id: string, at: number, piece: Blob): Promise<Response> =>
  call(`/api/recordings/${id}/pieces?at=${at}`, {
    method: 'POST',
    headers: { 'content-type': 'application/octet-stream' },
    body: piece,
  });
/** Makes a clip of a recording. @returns the clip's id. */
export const finishRecording = async (id: string): Promise<string> =>
  ((await (await call(`/api/recordings/${id}/finish`, { method: 'POST' })).json()) as { clipId: string }).clipId;
/** Depth cameras that bridges bring. */
export const fetchDepthCameras = async (): Promise<DepthCameraList> =>
  (await (await call('/api/depth-cameras')).json()) as DepthCameraList;
/** What a depth camera sees from now on, as messages (`MessageReader`). */
export async function watchDepthCamera(id: string, signal: AbortSignal): Promise<ReadableStream<Uint8Array>> {
  const { body } = await call(`/api/depth-cameras/${id}/frames`, { signal });
  if (!body) throw new Error('The server tells nothing of this camera.');
  return body;
}
/** Begins a recording from a depth camera, made by the server. @param seconds after which it ends by itself; 0 for never. */
export const recordDepth = async (
  camera: string,
  begin: { production: string; name: string; seconds: number },
): Promise<string> =>
  ((await (await call(`/api/depth-cameras/${camera}/recordings`, json('POST', begin))).json()) as { id: string }).id;
export const changeClip = (id: string, change: ClipChange): Promise<Response> =>
  call(`/api/clips/${id}`, json('PATCH', change));
/** What was measured of a clip before tracking. @throws RefusedError when it was not looked at yet. */
export const fetchLooks = (id: string): Promise<Looks> => read(Looks, `/api/clips/${id}/looks`);
/** Loudness of a clip's sound, a byte for each hundredth of a second. */
export const fetchWave = async (id: string): Promise<Uint8Array> =>
  new Uint8Array(await (await call(`/api/clips/${id}/wave`)).arrayBuffer());
export const addTake = async (clipId: string, take: NewTake): Promise<string> =>
  ((await (await call(`/api/clips/${clipId}/takes`, json('POST', take))).json()) as { id: string }).id;
/** A take with its edits. */
export const fetchTake = (id: string): Promise<OpenTakeView> => read(OpenTakeView, `/api/takes/${id}`);
/**
 * Stores a change of a take. @returns the new revision.
 * @throws ChangedElsewhereError when another revision is stored by now than it is based on, NeverTakenError when it doesn't fit.
 */
export async function changeTake(id: string, change: TakeChange): Promise<number> {
  try {
    const answer = z.object({ revision: z.number() });
    return (await read(answer, `/api/takes/${id}`, json('PATCH', change))).revision;
  } catch (error) {
    if (!(error instanceof RefusedError)) throw error;
    if (error.code === 'TAKE_CHANGED') throw new ChangedElsewhereError(error.message);
    throw error.status >= 400 && error.status < 500 ? new NeverTakenError(error.message) : error;
  }
}
export const fetchRevisions = (id: string): Promise<RevisionView[]> =>
  read(z.array(RevisionView), `/api/takes/${id}/revisions`);
/** The state that a take's work had at a revision. */
export const fetchRevision = (id: string, revision: number): Promise<TakeState> =>
  read(TakeState, `/api/takes/${id}/revisions/${revision}`);
/** Names a revision as a version, or takes its name away (null). */
export const nameRevision = (id: string, revision: number, version: string | null): Promise<Response> =>
  call(`/api/takes/${id}/revisions/${revision}/version`, json('PUT', { version }));
export const removeTake = (id: string): Promise<Response> => call(`/api/takes/${id}`, { method: 'DELETE' });
export const listTake = (id: string, listing: TakeListing): Promise<Response> =>
  call(`/api/takes/${id}/listing`, json('PATCH', listing));
export const duplicateTake = async (id: string): Promise<string> =>
  ((await (await call(`/api/takes/${id}/duplicate`, { method: 'POST' })).json()) as { id: string }).id;
export const fetchRuns = (id: string): Promise<PastRun[]> => read(z.array(PastRun), `/api/takes/${id}/runs`);
/** Lays settings over several takes: over all of them, or over none. */
export const shareSettings = (shared: SharedSettings): Promise<Response> =>
  call('/api/takes/settings', json('PATCH', shared));
export const fetchMedia = (): Promise<MediaView> => read(MediaView, '/api/media');
export const dropMedia = (clips: readonly string[], part: MediaPart): Promise<Response> =>
  call('/api/media/drop', json('POST', { clips, part }));
export const addPerformer = (production: string, performer: z.input<typeof NewPerformer>): Promise<PerformerView> =>
  read(PerformerView, `/api/productions/${production}/performers`, json('POST', performer));
export const changePerformer = (id: string, change: PerformerChange): Promise<PerformerView> =>
  read(PerformerView, `/api/performers/${id}`, json('PATCH', change));
export const removePerformer = (id: string): Promise<Response> => call(`/api/performers/${id}`, { method: 'DELETE' });
export const addPreset = (production: string, name: string, settings: PresetSettings): Promise<PresetView> =>
  read(PresetView, `/api/productions/${production}/presets`, json('POST', { name, settings }));
export const removePreset = (id: string): Promise<Response> => call(`/api/presets/${id}`, { method: 'DELETE' });
export const addHandShape = (shape: OwnHandShape): Promise<HandShapeView> =>
  read(HandShapeView, '/api/hand-shapes', json('POST', shape));
export const removeHandShape = (id: string): Promise<Response> => call(`/api/hand-shapes/${id}`, { method: 'DELETE' });
export const captureTake = (id: string): Promise<Response> => call(`/api/takes/${id}/capture`, { method: 'POST' });
export const cancelTake = (id: string): Promise<Response> => call(`/api/takes/${id}/cancel`, { method: 'POST' });
/** @param groups which columns. @param frames which frames of the capture; all if left out. */
export async function fetchObservations(
  id: string,
  groups: readonly ObservationGroup[],
  frames?: readonly [from: number, until: number],
): Promise<Observations> {
  const range = frames ? `&from=${frames[0]}&until=${frames[1]}` : '';
  const answer = await call(`/api/takes/${id}/observations?groups=${groups.join(',')}${range}`);
  return observationsFromBytes(new Uint8Array(await answer.arrayBuffer()));
}
/**
 * @param signal of who waits: a solve for which nobody waits any more is broken off.
 * @throws RefusedError with a sentence when no motion can be made.
 */
export const fetchSolved = async (id: string, signal: AbortSignal): Promise<SolvedTake> =>
  solvedFromBytes(new Uint8Array(await (await call(`/api/takes/${id}/motion`, { signal })).arrayBuffer()));
export const fetchPeople = async (clipId: string, frame: number): Promise<SeenPeople> =>
  SeenPeople.parse(await (await call(`/api/clips/${clipId}/people?frame=${frame}`)).json());
/** Address of a file that was made of a clip. Its content is part of it, so that a replaced file is not taken from the browser's store. */
export const clipFile = ({ id, hash }: { id: string; hash: string }, file: 'proxy' | 'poster' | 'filmstrip'): string =>
  `/api/clips/${id}/${file}?${hash.slice(0, 12)}`;
export const exportAddress = (id: string, format: string): string => `/api/takes/${id}/export?format=${format}`;
