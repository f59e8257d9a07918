import type { CapturedParts, ObservationChunk } from '@merry-shadow/core/observe/observations';
import type { Guide } from '../people/guide';
import type { ReadingRules } from '../reading-rules';
import type { FrameSource } from './frames';
import { planSegments } from './segments';
import type { TrackPool } from './track-pool';
import { WARM_UP } from './track-segment';

export interface ClipRun extends CapturedParts, ReadingRules {
  /** The clip and the take's frames: `first` and `count`. */
  source: FrameSource & { count: number };
  /** First frames, within the take, of segments that are stored already. */
  stored?: ReadonlySet<number>;
  /** Whom to follow, one entry for each performer; the most prominent person alone if left out. */
  guides?: readonly Guide[];
  onProgress?: (done: number, last: { frame: number; marks: Float32Array[] }) => void;
  /** @param performer which entry of the guides. */
  onPiece: (piece: ObservationChunk, performer: number) => Promise<void> | void;
  signal?: AbortSignal;
}

export interface ClipResult {
  frames: number;
  times: { decode: number; track: number };
  detections: number[];
}

const PROGRESS_FRAMES = 4;

/**
 * Tracks a take in segments on the pool's threads. Each segment reads a few frames before its first
 * one, by which its filters have settled: the seam differs from one long run by less than the shake
 * of a still figure. Pieces come in any order.
 * @throws Error when a segment fails; the others are stopped.
 */
export async function trackClip(pool: TrackPool, run: ClipRun): Promise<ClipResult> {
  const { source, hands, face, plain, fine, handCrop, guides } = run;
  // The exact rule needs one run from the first frame on.
  const planned = plain ? [{ first: 0, frames: source.count }] : planSegments(source.count);
  const segments = planned.filter((segment) => !run.stored?.has(segment.first));
  const done = new Map(planned.map((segment) => [segment.first, run.stored?.has(segment.first) ? segment.frames : 0]));
  const total: ClipResult = {
    frames: planned.reduce((sum, segment) => sum + (run.stored?.has(segment.first) ? segment.frames : 0), 0),
    times: { decode: 0, track: 0 },
    detections: [],
  };
  const stop = new AbortController();
  const signal = run.signal ? AbortSignal.any([run.signal, stop.signal]) : stop.signal;
  const results = await Promise.allSettled(
    segments.map(async (segment) => {
      const warmUp = Math.min(WARM_UP, segment.first);
      const job = { source, segment, warmUp, hands, face, plain, fine, handCrop, guides, everyFrames: PROGRESS_FRAMES };
      try {
        const { observations, times, detections } = await pool.track(
          job,
          (progress) => {
            done.set(segment.first, progress.done);
            run.onProgress?.(
              [...done.values()].reduce((a, b) => a + b, 0),
              { frame: segment.first + progress.done - 1, marks: progress.marks },
            );
          },
          signal,
        );
        if (signal.aborted) return;
        total.frames += observations[0].frames;
        total.times.decode += times.decode;
        total.times.track += times.track;
        total.detections.push(...detections);
        for (const [performer, own] of observations.entries())
          if (own.frames > 0) await run.onPiece({ first: segment.first, observations: own }, performer);
      } catch (error) {
        stop.abort();
        throw error;
      }
    }),
  );
  const failed = results.find((result) => result.status === 'rejected');
  if (failed) throw failed.reason;
  return total;
}
