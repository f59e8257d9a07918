import { soleTrack } from '../ground/floor';
import { plantedPoints, type Plant } from '../ground/plants';
import type { Motion } from '../motion/motion';
import { tetherMiss, type Tether } from '../posing/tether';
import type { Snag, SnagDetector } from './snag';

/** A part that misses its plant or its tether by more than this can't reach it, metres. */
const MISS = 0.005;

/** Limbs that would have to stretch to reach where they are planted or tethered. */
export const stretch: SnagDetector = {
  kind: 'stretch',
  title: 'Out of reach',
  find({ motion, plants, tethers = [] }) {
    return [...plantsMissed(motion, plants), ...tethers.flatMap((tether) => tetherMissed(motion, tether))];
  },
};

function tetherMissed(motion: Motion, tether: Tether): Snag[] {
  const most = tetherMiss(motion, tether) ?? 0;
  const { joint, from } = tether;
  const until = Math.min(tether.until, motion.frames);
  return most < MISS ? [] : [{ kind: 'stretch', joint, from, until, severity: most * 100, unit: 'cm', mends: [] }];
}

function plantsMissed(motion: Motion, plants: readonly Plant[]): Snag[] {
  const points = plantedPoints(motion);
  const track = soleTrack(motion, points);
  return plants.flatMap((plant): Snag[] => {
    const p = points.findIndex((point) => point.name === plant.part);
    const until = Math.min(plant.until, motion.frames);
    if (p < 0 || until - plant.from < 2) return [];
    const at = (f: number, k: number): number => track[(f * points.length + p) * 3 + k];
    const middle = Math.floor((plant.from + until) / 2);
    let most = 0;
    for (let f = plant.from; f < until; f++)
      most = Math.max(
        most,
        Math.hypot(...[0, 1, 2].map((k) => at(f, k) - (plant.place?.[k] ?? (k === 1 ? 0 : at(middle, k))))),
      );
    if (most < MISS) return [];
    return [
      { kind: 'stretch', joint: plant.part, from: plant.from, until, severity: most * 100, unit: 'cm', mends: [] },
    ];
  });
}
