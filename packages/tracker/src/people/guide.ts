import type { Appearance } from './appearance';
import { unlikeness } from './appearance';
import type { Person } from './associate';

/** Where a chosen performer should be, and what they and the others look like. Plain data: it is stored with the run. */
export interface Guide {
  own: GuidePerson;
  others: GuidePerson[];
}

export interface GuidePerson {
  /** frame, hip x, y, circle x, y for each sighting, in order. Frames of the clip. */
  path: number[][];
  appearance: number[];
}

/** Frames between two sightings over which a place is still told. */
const LONGEST_GAP = 20;

export function guideFor(people: readonly Person[], chosen: number): Guide {
  const plain = (person: Person): GuidePerson => ({
    path: person.sightings.map(({ frame, hip, circle }) =>
      [frame, ...hip, ...circle].map((value) => Math.round(value * 10) / 10),
    ),
    appearance: Array.from(person.appearance, (value) => Math.round(value * 1e4) / 1e4),
  });
  return { own: plain(people[chosen]), others: people.filter((_, i) => i !== chosen).map(plain) };
}

/** Hip and circle at a frame: x, y, x, y; null where the person isn't seen nearby in time. */
export function placeAt({ path }: GuidePerson, frame: number): [number, number, number, number] | null {
  let low = 0;
  let high = path.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (path[middle][0] <= frame) low = middle;
    else high = middle - 1;
  }
  const before = path[low];
  if (!before) return null;
  const after = path[low + 1];
  if (before[0] > frame || !after)
    return Math.abs(frame - before[0]) <= LONGEST_GAP ? [before[1], before[2], before[3], before[4]] : null;
  if (after[0] - before[0] > LONGEST_GAP) {
    const near = frame - before[0] <= after[0] - frame ? before : after;
    return Math.abs(frame - near[0]) <= LONGEST_GAP / 2 ? [near[1], near[2], near[3], near[4]] : null;
  }
  const t = (frame - before[0]) / (after[0] - before[0]);
  return [1, 2, 3, 4].map((k) => before[k] + (after[k] - before[k]) * t) as [number, number, number, number];
}

/** Radii of the body within which two people can't be told apart by place; then one's own clothes must be the likelier ones by this much. */
const CLOSE = 0.5;
const CLEARLY = 0.12;
/** Radii of the body within which one of two people hides the other. */
const CROSSING = 0.3;
/** Clothes that are hardly one's own: with somebody else's on, it is somebody else, wherever they stand. */
const STRANGE = 0.75;
/** What a place that isn't known counts, in the same measure as the colours. */
const UNKNOWN_PLACE = 0.35;

/** Whether a body at a place, with these colours, is the chosen performer rather than one of the others. In doubt it is not. */
export function isOwn(
  guide: Guide,
  frame: number,
  hip: readonly [number, number],
  size: number,
  seen: Appearance,
): boolean {
  const apart = (place: readonly number[] | null): number =>
    place ? Math.hypot(place[0] - hip[0], place[1] - hip[1]) / size : UNKNOWN_PLACE;
  const unlike = (person: GuidePerson): number => unlikeness(person.appearance, seen);
  const place = placeAt(guide.own, frame);
  const colour = unlike(guide.own);
  for (const other of guide.others) {
    const theirPlace = placeAt(other, frame);
    const theirColour = unlike(other);
    if (apart(theirPlace) + theirColour < apart(place) + colour) return false;
    if (colour > STRANGE && theirColour < colour / 2) return false;
    const close = theirPlace !== null && apart(theirPlace) < CLOSE;
    if (close && theirColour - colour < CLEARLY) return false;
  }
  return place === null || apart(place) < 0.8;
}

/** Whether the chosen performer is right before or behind somebody else, so that a new look would find either. */
export function isCrossing(guide: Guide, frame: number): boolean {
  const own = placeAt(guide.own, frame);
  if (!own) return false;
  const size = Math.hypot(own[2] - own[0], own[3] - own[1]);
  return guide.others.some((other) => {
    const theirs = placeAt(other, frame);
    return theirs !== null && Math.hypot(theirs[0] - own[0], theirs[1] - own[1]) < CROSSING * size;
  });
}
