import { parentPort, workerData } from 'node:worker_threads';
import { MARK_COUNT } from '@merry-shadow/core/observe/body';
import { observationColumns } from '@merry-shadow/core/observe/observations';
import { neededNets, type NetName, type Nets } from '../runtime/net';
import { readFaceGeometry } from './face-geometry';
import { findPeople } from './find-people';
import { readFrames } from './frames';
import { openNet } from './open-nets';
import { lookAtClip } from './look-at-clip';
import type { LooksJob, PeopleJob, PoolAnswer, PoolOrder, PoolProgress, SegmentJob } from './track-pool';
import { trackSegment } from './track-segment';

/** Works through the pool's orders, one after the other. Networks are opened when first needed. */
const { cache } = workerData as { cache: string };
const opened = new Map<NetName, Nets[NetName]>();
let geometry: Awaited<ReturnType<typeof readFaceGeometry>> | undefined;
let current: { id: number; abort: AbortController; done: Promise<void> } | null = null;
let ending = false;
const answer = (message: PoolAnswer, transfer: ArrayBuffer[] = []): void => {
  if (!ending) parentPort?.postMessage(message, transfer);
};

async function open(names: readonly NetName[]): Promise<Nets> {
  for (const name of names) if (!opened.has(name)) opened.set(name, await openNet(name, cache));
  return Object.fromEntries(opened) as unknown as Nets;
}

type Report = (progress: PoolProgress) => void;
type Done = { result: unknown; transfer: ArrayBuffer[] };

async function track(job: SegmentJob, report: Report, signal: AbortSignal): Promise<Done> {
  const { source, segment, warmUp, everyFrames } = job;
  const firstFrame = (source.first ?? 0) + segment.first - warmUp;
  const nets = await open(neededNets(job));
  if (job.face) geometry ??= await readFaceGeometry();
  const width = MARK_COUNT * 3;
  const result = await trackSegment(nets, {
    ...job,
    geometry,
    firstFrame,
    frames: readFrames({ ...source, first: firstFrame, count: segment.frames + warmUp }, signal),
    count: segment.frames,
    rate: source.rate,
    width: source.width,
    height: source.height,
    signal,
    onFrame: (done, observations) => {
      if (done % everyFrames === 0)
        report({ done, marks: observations.map(({ marks }) => marks.slice((done - 1) * width, done * width)) });
    },
  });
  return {
    result,
    transfer: result.observations.flatMap((one) =>
      observationColumns(one).map((column) => column.data.buffer as ArrayBuffer),
    ),
  };
}

async function people({ source }: PeopleJob, report: Report, signal: AbortSignal): Promise<Done> {
  const nets = await open(['bodyDetector']);
  return {
    result: await findPeople(nets, source, {
      signal,
      onProgress: (part) => report({ done: Math.round(part * source.count), marks: [] }),
    }),
    transfer: [],
  };
}

async function looks({ source }: LooksJob, signal: AbortSignal): Promise<Done> {
  const nets = await open(['bodyDetector', 'bodyMarks']);
  return { result: await lookAtClip(nets, source, signal), transfer: [] };
}

parentPort?.on('message', (order: PoolOrder) => {
  if ('stop' in order) {
    if (current?.id === order.stop) current.abort.abort();
    return;
  }
  if ('end' in order) {
    ending = true;
    current?.abort.abort();
    void Promise.resolve(current?.done).then(() => process.exit(0));
    return;
  }
  const { id } = order;
  const abort = new AbortController();
  const report: Report = (progress) => answer({ id, progress });
  const work =
    'segment' in order
      ? track(order.segment, report, abort.signal)
      : 'people' in order
        ? people(order.people, report, abort.signal)
        : looks(order.looks, abort.signal);
  const done = work.then(
    ({ result, transfer }) => answer({ id, result }, transfer),
    (error: Error) => answer({ id, problem: error.message }),
  );
  current = { id, abort, done };
});
