import { soleTrack } from '../ground/floor';
import { plantedPoints } from '../ground/plants';
import type { Snag, SnagDetector } from './snag';

/** A part that misses its plant by more than this can't reach it, metres. */
const MISS = 0.005;

/** Limbs that would have to stretch to reach where they are planted. */
export const stretch: SnagDetector = {
  kind: 'stretch',
  title: 'Out of reach',
  find({ motion, plants }) {
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
  },
};
