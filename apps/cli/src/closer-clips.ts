import { join } from 'node:path';
import type { Script } from '@merry-shadow/synth/choreography/script';
import { faceClip } from '@merry-shadow/synth/population/face-clips';
import { handClip } from '@merry-shadow/synth/population/hand-clips';
import { measuredClips, type MeasuredClip } from './measured-clips';
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
/** … or a face by a camera that is held on the head, or at few frames a second: many faces for little time. */
export type CloserClips = CloserPart | 'held face' | 'sparse face';

/** Pixels of a face before a camera that is held on the head, of 480. */
const HELD_TALL = 380;
/** Frames a second of faces that are only learned from. */
const SPARSE_RATE = 5;
const each =
  (draw: (seed: number, index: number) => Script) =>
  (seed: number, count: number): Script[] =>
    Array.from({ length: count }, (_, index) => draw(seed, index));
const SCRIPTS: Record<CloserClips, (seed: number, count: number) => Script[]> = {
  hands: handScripts,
  face: each((seed, index) => faceClip(seed, index)),
  'held face': each((seed, index) => faceClip(seed, index, 0, HELD_TALL)),
  'sparse face': each((seed, index) => ({ ...faceClip(seed, index), rate: SPARSE_RATE })),
};
const FOLDERS: Record<CloserClips, string> = {
  hands: 'hands',
  face: 'faces',
  'held face': 'held-faces',
  'sparse face': 'sparse-faces',
};

/** Made-up clips of hands or faces, tracked, with their truth. @param seeds which populations. @param count how many clips of each. */
export function closerClips(part: CloserClips, seeds: readonly number[], count: number): AsyncGenerator<MeasuredClip> {
  const scripts = seeds.flatMap((seed) => SCRIPTS[part](seed, count));
  return measuredClips(
    scripts.map((script) => JSON.stringify(script)),
    join(DATA, FOLDERS[part]),
  );
}
