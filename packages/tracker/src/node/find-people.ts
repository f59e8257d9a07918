import { PeopleScan } from '../people/scan';
import type { Person } from '../people/associate';
import type { BodyNets } from '../runtime/net';
import { readFrames, type FrameSource } from './frames';

/** Seconds between two looks for people. */
const LOOK_SECONDS = 0.2;

/**
 * Finds the people of a take and follows who is who through crossings.
 * @param source the clip and the take's frames.
 * @param onProgress 0 … 1.
 * @returns people, the most prominent first; frames are those of the clip.
 */
export async function findPeople(
  nets: Pick<BodyNets, 'bodyDetector'>,
  source: FrameSource & { count: number },
  options: { signal?: AbortSignal; onProgress?: (part: number) => void } = {},
): Promise<Person[]> {
  const scan = new PeopleScan(nets);
  const step = Math.max(1, Math.round(source.rate * LOOK_SECONDS));
  const from = source.first ?? 0;
  let frame = 0;
  for await (const picture of readFrames(source, options.signal)) {
    if (options.signal?.aborted) break;
    // Crops in one look of five: people do not appear in the distance all of a sudden.
    if (frame % step === 0) await scan.look(picture, from + frame, frame % (step * 5) === 0);
    frame++;
    options.onProgress?.(frame / source.count);
  }
  return scan.people();
}
