import { solePoints, soleTrack } from '../../ground/floor';
import type { Motion } from '../../motion/motion';
import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import type { Contacts } from './contacts';
import { SOLE_MARKS } from './sole-picture';

/** A mark rests that stays within this part of the body's length in the picture for so many seconds to either side: in the air none does. */
const STANDS = 0.045;
const SECONDS = 0.15;
/** Of soles that rest in the picture, those count that lie no higher than so many metres above the lowest. */
const SAME_LEVEL = 0.08;

/** True where a mark stays at its place in the picture around a frame, as far as it is seen. */
export function staysPut({ frames, rate, marks }: BodyObservations, mark: MarkName, frame: number): boolean {
  const at = (other: number, name: MarkName): number => (other * MARK_COUNT + MARK[name]) * 3;
  const between = (a: number, b: number): number => Math.hypot(marks[a] - marks[b], marks[a + 1] - marks[b + 1]);
  const length = Math.max(
    between(at(frame, 'leftShoulder'), at(frame, 'leftAnkle')),
    between(at(frame, 'rightShoulder'), at(frame, 'rightAnkle')),
  );
  const reach = Math.max(1, Math.round(SECONDS * rate));
  for (let other = Math.max(0, frame - reach); other <= Math.min(frames - 1, frame + reach); other++)
    if (between(at(frame, mark), at(other, mark)) > STANDS * length) return false;
  return Number.isFinite(length);
}

/** Soles that rest as far as the picture alone tells, which needs no path that is right already: 1, else 0, frame by frame. */
export function standingSoles(motion: Motion, observations: BodyObservations): Contacts {
  const points = solePoints(motion);
  const track = soleTrack(motion, points);
  const height = (frame: number, s: number): number => track[(frame * points.length + s) * 3 + 1];
  return points.map(({ name }, s) =>
    Float64Array.from({ length: motion.frames }, (_, frame) => {
      if (!staysPut(observations, SOLE_MARKS[name], frame)) return 0;
      const lowest = Math.min(...points.map((__, other) => height(frame, other)));
      return height(frame, s) < lowest + SAME_LEVEL ? 1 : 0;
    }),
  );
}
