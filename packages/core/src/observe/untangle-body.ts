import { MARK_COUNT, MARK_NAMES, type BodyObservations } from './body';
import { sidesOf, tangledFrames, withSidesTraded, type Tangle } from './untangle';

/** Parts that every mark of a side belongs to. */
const ALL = MARK_NAMES.flatMap((name) => (name.startsWith('left') ? [name.slice('left'.length)] : []));

/** A whole body is taken to face the other way when it turns, and in clothes that look alike from both sides. */
const BODY: Tangle = {
  parts: ['Shoulder', 'Hip'],
  otherwise: 0.12,
  change: 0.3,
  speaks: (seen, frame) => -WRUNG * wrung(seen, frame),
};

/** What speaks for it in a frame in which the network turns shoulders against hips farther than a waist does: cost, and the cosine of the turn. */
const WRUNG = 0.3;
const LEAST_COSINE = 0.8;

/** How far beyond that shoulders are turned against hips, as a cosine. */
function wrung({ world }: BodyObservations, frame: number): number {
  const [shoulders, hips] = ['Shoulder', 'Hip'].map((part) => {
    const [left, right] = sidesOf(part).map((mark) => (frame * MARK_COUNT + mark) * 3);
    return [world[left] - world[right], world[left + 2] - world[right + 2]];
  });
  const cosine = (shoulders[0] * hips[0] + shoulders[1] * hips[1]) / (Math.hypot(...shoulders) * Math.hypot(...hips));
  return Math.max(0, LEAST_COSINE - cosine) || 0;
}

/**
 * The same observations with bodies that face the way they did just before: in frames in which the network took the front for the back, all
 * marks trade places with the other side's, and its points are mirrored in depth, as that is what it had mistaken.
 */
export function withBodyFacing(observations: BodyObservations): BodyObservations {
  const tangled = turnedRound(observations);
  if (!tangled.includes(1)) return observations;
  const traded = withSidesTraded(observations, tangled, ALL);
  tangled.forEach((flag, frame) => {
    if (flag) for (let i = 0; i < MARK_COUNT; i++) traded.world[(frame * MARK_COUNT + i) * 3 + 2] *= -1;
  });
  return traded;
}

/** Frames in which the network took the front of a body for its back. @returns frames: 1 where it did. */
export const turnedRound = (observations: BodyObservations): Uint8Array => tangledFrames(observations, BODY);
