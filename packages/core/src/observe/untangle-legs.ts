import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from './body';
import { trunkPixels } from './trunk';
import { tangledFrames, withSidesTraded, type Tangle } from './untangle';

/** How much more taking legs the other way round costs for each trunk length by which the feet stand to their own sides of the hips. */
const SIDES = 0.15;
/** Width of hips seen square on, in trunk lengths. */
const SQUARE_HIPS = 0.35;

/** Legs are taken for each other when they cross while the back is turned. */
const LEGS: Tangle = {
  parts: ['Knee', 'Ankle', 'Heel', 'FootIndex'],
  otherwise: 0.02,
  change: 0.3,
  speaks: ({ marks }, frame) => SIDES * sidewise(marks, frame),
};

/** The same observations with the legs told apart throughout: marks and points of tangled ones trade places. */
export function withLegsApart(observations: BodyObservations): BodyObservations {
  const tangled = tangledLegs(observations);
  return tangled.includes(1) ? withSidesTraded(observations, tangled, LEGS.parts) : observations;
}

/** Frames in which the network took one leg for the other. @returns frames: 1 where left and right leg are the other way round. */
export const tangledLegs = (observations: BodyObservations): Uint8Array => tangledFrames(observations, LEGS);

/** How far left and right foot are to their own sides in the picture, as the hips tell the sides, in trunk lengths; below 0 where they are crossed. */
function sidewise(marks: Float32Array, frame: number): number {
  const x = (name: MarkName): number => marks[(frame * MARK_COUNT + MARK[name]) * 3];
  const trunk = trunkPixels(marks, frame);
  const hips = (x('leftHip') - x('rightHip')) / trunk;
  return (Math.max(-1, Math.min(1, hips / SQUARE_HIPS)) * (x('leftAnkle') - x('rightAnkle'))) / trunk;
}
