import { z } from 'zod';
import { MARK, MARK_COUNT, MARK_NAMES, isSeen, type BodyObservations, type MarkName } from '../../observe/body';
import { TRUNK, trunkPixels } from '../../observe/trunk';
import { withSwappedSides, type SwappedSides } from './swapped-sides';

/** Where a person says that a mark is in a frame. */
export const MovedMark = z.object({
  mark: z.enum(MARK_NAMES),
  frame: z.number().int(),
  /** Pixels of the upright picture. */
  x: z.number(),
  y: z.number(),
});
export type MovedMark = z.infer<typeof MovedMark>;

/** Frames from … until − 1 in which a person says that a mark is not to be seen, so that nothing is believed of it. */
export const HiddenMark = z.object({
  mark: z.enum(MARK_NAMES),
  from: z.number().int(),
  until: z.number().int(),
});
export type HiddenMark = z.infer<typeof HiddenMark>;

/** What a person says of marks in the picture. */
export interface ToldMarks {
  moved: readonly MovedMark[];
  hidden: readonly HiddenMark[];
  /** Counts before the others, which name marks as they are then. */
  swapped?: readonly SwappedSides[];
}

/** Two moved marks that lie no farther apart have the way between them filled in, seconds; beside them a move fades over so many. */
const JOINED = 1;
const FADE = 0.07;
/** How surely a mark that was moved is seen. */
const SURE = 1;

/**
 * Observations with what a person says of marks: at a moved mark it lies where they put it; between two of the same mark it keeps the way that it was tracked, shifted from the one
 * to the other. The network's 3D point goes along across the view, by the size of the body in the picture.
 * @returns the observations themselves where nothing is said.
 */
export function withToldMarks<T extends BodyObservations>(captured: T, { moved, hidden, swapped = [] }: ToldMarks): T {
  const observations = withSwappedSides(captured, swapped);
  if (moved.length === 0 && hidden.length === 0) return observations;
  const { frames, rate } = observations;
  const [marks, world] = [observations.marks.slice(), observations.world.slice()];
  for (const mark of new Set(moved.map((one) => one.mark))) {
    const keys = moved
      .filter((one) => one.mark === mark && one.frame >= 0 && one.frame < frames && isSeen(observations, one.frame))
      .sort((a, b) => a.frame - b.frame)
      .map(({ frame, x, y }) => ({
        frame,
        x: x - observations.marks[at(frame, mark)],
        y: y - observations.marks[at(frame, mark) + 1],
      }));
    for (let frame = 0; keys.length > 0 && frame < frames; frame++) {
      const [x, y, share] = offsetBetween(keys, frame, rate);
      if (share === 0 || !isSeen(observations, frame)) continue;
      const metres = TRUNK / trunkPixels(observations.marks, frame);
      const i = at(frame, mark);
      marks[i] += x;
      marks[i + 1] += y;
      marks[i + 2] = Math.max(marks[i + 2], SURE * share);
      world[i] += x * metres;
      world[i + 1] -= y * metres;
    }
  }
  for (const { mark, from, until } of hidden)
    for (let frame = Math.max(0, from); frame < Math.min(frames, until); frame++) marks[at(frame, mark) + 2] = 0;
  return { ...observations, marks, world };
}

const at = (frame: number, mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3;

/** How far a mark is moved in a frame, pixels, and how much that counts. */
function offsetBetween(
  keys: readonly { frame: number; x: number; y: number }[],
  frame: number,
  rate: number,
): [x: number, y: number, share: number] {
  const next = keys.find((key) => key.frame >= frame);
  const before = keys.findLast((key) => key.frame <= frame);
  if (before && next && next.frame - before.frame <= JOINED * rate) {
    const t = next === before ? 0 : (frame - before.frame) / (next.frame - before.frame);
    return [before.x + (next.x - before.x) * t, before.y + (next.y - before.y) * t, 1];
  }
  const [near] = [before, next]
    .flatMap((key) => (key ? [key] : []))
    .sort((a, b) => Math.abs(a.frame - frame) - Math.abs(b.frame - frame));
  const share = near ? Math.max(0, 1 - Math.abs(near.frame - frame) / (FADE * rate + 1)) : 0;
  return near ? [near.x * share, near.y * share, share] : [0, 0, 0];
}
