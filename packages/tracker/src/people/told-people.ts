import { appearanceOf, hipAt, type Person } from './associate';

/** Where a person says that the performer is: the middle of their hips in a frame, pixels. */
export interface ToldPlace {
  frame: number;
  x: number;
  y: number;
}

/**
 * Finds whom a person pointed at, in one frame or in several: where they say that it is somebody else by then, the two were taken for each other in between, and change over where they
 * were nearest to each other.
 * @param people at least one. @param told at least one place. @param clip width of the picture in pixels, and frames a second.
 * @returns the people, with who was taken for each other put right; the one that was pointed at first.
 */
export function followTold(
  people: readonly Person[],
  told: readonly ToldPlace[],
  clip: { width: number; rate: number },
): Person[] {
  const [first, ...later] = [...told].sort((a, b) => a.frame - b.frame);
  let others = [...people];
  let [own] = others.splice(nearestPerson(others, first, clip), 1);
  let before = first;
  for (const place of later) {
    const all = [own, ...others];
    const at = nearestPerson(all, place, clip);
    if (at > 0) {
      const other = all[at];
      const frame = meeting(own, other, before.frame, place.frame);
      const rest = joined(other, own, frame);
      own = joined(own, other, frame);
      // Who was taken for somebody else where they were found again, was nobody else.
      others = others.flatMap((one) => (one !== other ? [one] : rest.sightings.length > 0 ? [rest] : []));
    }
    before = place;
  }
  return [own, ...others];
}

/** Who was nearest to a place, in the picture and in time. */
function nearestPerson(
  people: readonly Person[],
  place: ToldPlace,
  { width, rate }: { width: number; rate: number },
): number {
  const apart = people.map(({ sightings }) => {
    const nearest = sightings.reduce(
      (best, item) => (Math.abs(item.frame - place.frame) < Math.abs(best.frame - place.frame) ? item : best),
      sightings[0],
    );
    const seconds = Math.abs(nearest.frame - place.frame) / rate;
    return Math.hypot(nearest.hip[0] - place.x, nearest.hip[1] - place.y) / width + seconds;
  });
  return apart.indexOf(Math.min(...apart));
}

/** The frame between two in which two people were nearest to each other: after the first one, up to the last one. */
function meeting(a: Person, b: Person, first: number, last: number): number {
  const frames = [...a.sightings, ...b.sightings]
    .map(({ frame }) => frame)
    .filter((frame) => frame > first && frame <= last);
  const apart = (frame: number): number => {
    const [p, q] = [hipAt(a, frame), hipAt(b, frame)];
    return Math.hypot(p[0] - q[0], p[1] - q[1]);
  };
  return frames.reduce((best, frame) => (apart(frame) <= apart(best) ? frame : best), last);
}

/** One person up to a frame, another one from it on. */
function joined(before: Person, after: Person, at: number): Person {
  const sightings = [
    ...before.sightings.filter(({ frame }) => frame < at),
    ...after.sightings.filter(({ frame }) => frame >= at),
  ];
  return { sightings, appearance: appearanceOf(sightings) };
}
