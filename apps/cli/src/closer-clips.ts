import { join } from 'node:path';
import type { Script } from '@merry-shadow/synth/choreography/script';
import { faceClip } from '@merry-shadow/synth/population/face-clips';
import { handClip, type HandDistance } from '@merry-shadow/synth/population/hand-clips';
import { measuredClips, type MeasuredClip, type Measuring } from './measured-clips';
import { DATA } from './paths';

/** Clips of hands of a population: all near, the first half also at a middle distance, the first quarter from afar. */
function handScripts(seed: number, count: number): Script[] {
  return Array.from({ length: count }, (_, index) => index).flatMap((index) => [
    handClip(seed, index, 'near'),
    ...(index < count / 2 ? [handClip(seed, index, 'middle')] : []),
    ...(index < count / 4 ? [handClip(seed, index, 'far')] : []),
  ]);
}

/** Parts of the body that are seen from near by. */
export type CloserPart = 'hands' | 'face';
/** … or a face by a camera that is held on the head, or at few frames a second: many hands and faces for little time. */
export type CloserClips = CloserPart | 'held face' | 'sparse face' | 'sparse hands';

/** Pixels of a face before a camera that is held on the head, of 480. */
const HELD_TALL = 380;
/** Frames a second of hands and faces that are only learned from. */
const SPARSE_RATE = 5;
/** How near hands are that are only learned from, and how many of their poses are no ready shapes. */
const SPARSE_DISTANCES: readonly HandDistance[] = ['near', 'middle', 'near', 'near', 'far', 'middle', 'near'];
const FREE_POSES = 0.4;
const each =
  (draw: (seed: number, index: number) => Script) =>
  (seed: number, count: number): Script[] =>
    Array.from({ length: count }, (_, index) => draw(seed, index));
const SCRIPTS: Record<CloserClips, (seed: number, count: number) => Script[]> = {
  hands: handScripts,
  face: each((seed, index) => faceClip(seed, index)),
  'held face': each((seed, index) => faceClip(seed, index, 0, HELD_TALL)),
  'sparse hands': each((seed, index) => ({
    ...handClip(seed, index, SPARSE_DISTANCES[index % SPARSE_DISTANCES.length], FREE_POSES),
    rate: SPARSE_RATE,
  })),
  'sparse face': each((seed, index) => ({ ...faceClip(seed, index), rate: SPARSE_RATE })),
};
const FOLDERS: Record<CloserClips, string> = {
  hands: 'hands',
  face: 'faces',
  'held face': 'held-faces',
  'sparse hands': 'sparse-hands',
  'sparse face': 'sparse-faces',
};

/** Made-up clips of hands or faces, tracked, with their truth. @param seeds which populations. @param count how many clips of each. */
export function closerClips(
  part: CloserClips,
  seeds: readonly number[],
  count: number,
  measuring: Measuring = {},
): AsyncGenerator<MeasuredClip> {
  const scripts = seeds.flatMap((seed) => SCRIPTS[part](seed, count));
  return measuredClips(
    scripts.map((script) => JSON.stringify(script)),
    join(DATA, FOLDERS[part]),
    measuring,
  );
}
