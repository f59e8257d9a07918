import { z } from 'zod';
import type { Motion } from '../motion/motion';
import { runsWhere } from '../signal/runs';
import { jointIndex } from '../motion/skeleton';
import { solePoints, type SolePoint } from './floor';
import type { HandName } from './hand-rests';

export const PLANTED_PARTS = ['leftHeel', 'leftToe', 'rightHeel', 'rightToe', 'leftHand', 'rightHand'] as const;
export type PlantedPart = (typeof PLANTED_PARTS)[number];
/** What each is called in a sentence. */
export const PART_WORDS: Record<PlantedPart, string> = {
  leftHeel: 'left heel',
  leftToe: 'left ball',
  rightHeel: 'right heel',
  rightToe: 'right ball',
  leftHand: 'left hand',
  rightHand: 'right hand',
};

/** A span in which a heel, the ball of a foot or a hand stays put: data, stored with the take. */
export const Plant = z.object({
  part: z.enum(PLANTED_PARTS),
  /** Frames from … until − 1. */
  from: z.number().int(),
  until: z.number().int(),
  /** Frames over which it takes hold before and lets go after. */
  ease: z.number().int().min(0).max(60).default(4),
  /** Where it stays, metres; null takes the middle of where it was, for feet on the floor or on the thing they stood on. */
  place: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
});
export type Plant = z.infer<typeof Plant>;

/** Plants as far as they lie within a take; those outside are left out. */
export const plantsWithin = <T extends Plant>(plants: readonly T[], frames: number): T[] =>
  plants.flatMap((plant) => {
    const [from, until] = [Math.max(0, plant.from), Math.min(frames, plant.until)];
    return until > from ? [{ ...plant, from, until }] : [];
  });

/** A sole rests for so many frames at least to be planted, and is held where it rests so firmly: its ends are uncertain. */
const LEAST_FRAMES = 4;
const FIRM = 0.7;
/** Frames that are held of the shortest rest. */
const LEAST_HELD = 2;

/** How firmly each sole point rests, frame by frame, and the hands where they do. */
export type Resting<T> = Record<SolePoint['name'], T> & Partial<Record<HandName, T>>;

/** The plants that were found in a take: each run of frames in which a part rests, but for its loose ends. */
export function plantsFrom(contacts: Resting<ArrayLike<number>> | null): Plant[] {
  if (!contacts) return [];
  const plants: Plant[] = [];
  for (const [part, weights] of Object.entries(contacts) as [PlantedPart, ArrayLike<number>][]) {
    for (const [from, until] of runsWhere(weights.length, (frame) => weights[frame] > 0, LEAST_FRAMES))
      plants.push({ part, ...firmSpan(weights, from, until), ease: 5, place: null });
  }
  return plants.sort((a, b) => a.from - b.from);
}

/** A run of frames without its loose ends. */
function firmSpan(weights: ArrayLike<number>, from: number, until: number): Pick<Plant, 'from' | 'until'> {
  const loose = (frame: number): boolean => until - from > LEAST_HELD && weights[frame] < FIRM;
  while (loose(from) || loose(until - 1)) {
    if (loose(from)) from++;
    if (loose(until - 1)) until--;
  }
  return { from, until };
}

/** A point of the body that can be planted. */
export interface PlantedPoint {
  name: PlantedPart;
  joint: number;
  offset: [number, number, number];
}

/** The points of a skeleton that can be planted: soles, and the wrists. */
export function plantedPoints(motion: Pick<Motion, 'skeleton'>): PlantedPoint[] {
  const hands = (['leftHand', 'rightHand'] as const).map((name): PlantedPoint => {
    return { name, joint: jointIndex(motion.skeleton, name), offset: [0, 0, 0] };
  });
  return [...solePoints(motion), ...hands.filter((hand) => hand.joint >= 0)];
}
