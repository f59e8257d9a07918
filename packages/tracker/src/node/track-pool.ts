import { Worker } from 'node:worker_threads';
import type { CapturedParts } from '@merry-shadow/core/observe/observations';
import type { Looks } from '@merry-shadow/core/judge/looks';
import type { Person } from '../people/associate';
import type { Guide } from '../people/guide';
import type { ReadingRules } from '../reading-rules';
import type { FrameSource } from './frames';
import type { LookSource } from './look-at-clip';
import type { Segment } from './segments';
import type { SegmentResult } from './track-segment';
import { takeTurn } from './turns';

/** Track one segment of a take. */
export interface SegmentJob extends CapturedParts, ReadingRules {
  /** The take's clip; `first` is the take's first frame. */
  source: FrameSource;
  segment: Segment;
  warmUp: number;
  guides?: readonly Guide[];
  /** A word of progress after so many frames. */
  everyFrames: number;
}

/** Find the people of a take. */
export interface PeopleJob {
  source: FrameSource & { count: number };
}

/** Look at a clip, so that it can be judged. */
export interface LooksJob {
  source: LookSource;
}

type Order = { segment: SegmentJob } | { people: PeopleJob } | { looks: LooksJob };
/** `end`: break off what is being done and end the thread. */
export type PoolOrder = ({ id: number } & Order) | { stop: number } | { end: true };
/** How far a job is: frames done (of people: looked at), and each performer's marks (33 × 3) of the last one. */
export interface PoolProgress {
  done: number;
  marks: Float32Array[];
}
export type PoolAnswer =
  { id: number; progress: PoolProgress } | { id: number; result: unknown } | { id: number; problem: string };

interface Waiting {
  order: Order;
  onProgress?: (progress: PoolProgress) => void;
  signal?: AbortSignal;
  resolve: (result: unknown) => void;
  reject: (error: Error) => void;
}

/** Segments of one take are cut from one and the same source. */
const sourceOf = ({ order }: Waiting): FrameSource =>
  'segment' in order ? order.segment.source : 'people' in order ? order.people.source : order.looks.source;

/** Threads that look for people and track segments, each with networks of its own. */
export class TrackPool {
  private readonly idle: Worker[] = [];
  private readonly all: Worker[] = [];
  private readonly waiting: Waiting[] = [];
  /** What the threads read right now. */
  private readonly active: FrameSource[] = [];
  private newest = 0;

  /** @param cache folder for converted networks. */
  constructor(
    private readonly cache: string,
    private readonly threads = 2,
  ) {}

  /**
   * Tracks a segment as soon as a thread is free.
   * @throws Error when tracking fails; an aborted segment gives what it has.
   */
  track(
    segment: SegmentJob,
    onProgress?: (progress: PoolProgress) => void,
    signal?: AbortSignal,
  ): Promise<SegmentResult> {
    return this.queue({ segment }, onProgress, signal) as Promise<SegmentResult>;
  }

  /** Finds people as soon as a thread is free; see `findPeople`. */
  people(people: PeopleJob, onProgress?: (progress: PoolProgress) => void, signal?: AbortSignal): Promise<Person[]> {
    return this.queue({ people }, onProgress, signal) as Promise<Person[]>;
  }

  /** Looks at a clip as soon as a thread is free; see `lookAtClip`. */
  looks(looks: LooksJob, signal?: AbortSignal): Promise<Looks> {
    return this.queue({ looks }, undefined, signal) as Promise<Looks>;
  }

  private queue(order: Waiting['order'], onProgress?: Waiting['onProgress'], signal?: AbortSignal): Promise<unknown> {
    return new Promise((resolve, reject) => {
      this.waiting.push({ order, onProgress, signal, resolve, reject });
      this.next();
    });
  }

  private next(): void {
    if (this.waiting.length === 0) return;
    const worker = this.idle.pop() ?? (this.all.length < this.threads ? this.start() : null);
    if (!worker) return;
    this.give(worker, takeTurn(this.waiting, this.active, sourceOf));
  }

  private start(): Worker {
    const worker = new Worker(new URL('./track-worker.mjs', import.meta.url), { workerData: { cache: this.cache } });
    worker.unref();
    this.all.push(worker);
    return worker;
  }

  private give(worker: Worker, task: Waiting): void {
    const id = ++this.newest;
    worker.ref();
    this.active.push(sourceOf(task));
    const stop = (): void => worker.postMessage({ stop: id } satisfies PoolOrder);
    const finish = (): void => {
      this.active.splice(this.active.indexOf(sourceOf(task)), 1);
      worker.off('message', listen);
      worker.off('error', broken);
      task.signal?.removeEventListener('abort', stop);
    };
    const listen = (answer: PoolAnswer): void => {
      if (answer.id !== id) return;
      if ('progress' in answer) return task.onProgress?.(answer.progress);
      finish();
      worker.unref();
      this.idle.push(worker);
      if ('result' in answer) task.resolve(answer.result);
      else task.reject(new Error(answer.problem));
      this.next();
    };
    const broken = (error: Error): void => {
      finish();
      this.all.splice(this.all.indexOf(worker), 1);
      task.reject(error);
      this.next();
    };
    worker.on('message', listen);
    worker.on('error', broken);
    task.signal?.addEventListener('abort', stop, { once: true });
    worker.postMessage({ id, ...task.order } satisfies PoolOrder);
    if (task.signal?.aborted) stop();
  }

  /**
   * Ends all threads; what waits or is being done is given up without an answer. Each thread ends by itself between
   * two runs of a network: one that is terminated while it is inside of the native runtime aborts the whole process.
   */
  async close(): Promise<void> {
    this.waiting.length = 0;
    this.idle.length = 0;
    await Promise.all(
      this.all.splice(0).map((worker) => {
        worker.ref();
        worker.postMessage({ end: true } satisfies PoolOrder);
        return new Promise((resolve) => worker.once('exit', resolve));
      }),
    );
  }
}
