import { blendAppearance, unlikeness, type Appearance } from './appearance';

/** A person seen in one frame. Pixels. */
export interface Sighting {
  frame: number;
  score: number;
  /** Middle of the hips. */
  hip: [number, number];
  /** On the circle round the whole body, above the hips. */
  circle: [number, number];
  shoulder: [number, number];
  appearance: Appearance;
}

/** Trunks whose middles are nearer to each other than this part of the longer one's length are one person's. */
const SAME_TRUNK = 0.6;

/**
 * Sightings that stand for people of their own: those whose hips lie in the picture, the surest of those whose trunks lie in each other.
 * @param sightings of one frame.
 */
export function people(
  sightings: readonly Sighting[],
  { width, height }: { width: number; height: number },
): Sighting[] {
  const trunk = ({ hip, shoulder }: Sighting): number => Math.hypot(shoulder[0] - hip[0], shoulder[1] - hip[1]);
  const apart = (a: Sighting, b: Sighting): number =>
    Math.hypot(...[0, 1].map((k) => (a.hip[k] + a.shoulder[k] - b.hip[k] - b.shoulder[k]) / 2));
  const out: Sighting[] = [];
  for (const one of [...sightings].sort((a, b) => b.score - a.score)) {
    const [x, y] = one.hip;
    if (x < 0 || y < 0 || x > width || y > height * 1.5) continue;
    if (out.every((other) => apart(one, other) > SAME_TRUNK * Math.max(trunk(one), trunk(other)))) out.push(one);
  }
  return out;
}

/** Diameter of the circle round the whole body, pixels: about how tall somebody is. */
export const sightingSize = ({ hip, circle }: Pick<Sighting, 'hip' | 'circle'>): number =>
  2 * Math.hypot(circle[0] - hip[0], circle[1] - hip[1]);

/** A person through the frames that were looked at. */
export interface Person {
  sightings: Sighting[];
  appearance: Appearance;
}

/** Cost above which a sighting belongs to somebody else. */
const FARTHEST = 1.2;
const COLOUR_WEIGHT = 1.6;
/** Clothes more unlike than this are somebody else's, wherever they are seen. */
const OTHER_CLOTHES = 0.62;
const MEMORY = 0.15;
/** Radii of the body within which a sighting may be one of somebody else. */
const BESIDE = 0.5;
/** Part of the looks in which somebody must be seen to count as a person. */
const LEAST_PART = 0.1;

const sizeOf = (sighting: Sighting): number =>
  Math.hypot(sighting.circle[0] - sighting.hip[0], sighting.circle[1] - sighting.hip[1]);

/**
 * Joins sightings to people by place, speed, size and the colours of their clothes. Somebody hidden
 * for a while is taken up again where they are most likely to be. The assignment in each frame is the
 * cheapest one over all (for up to six people by trying all).
 * @param frames sightings of each frame that was looked at, in order.
 * @returns people, the one seen most first.
 */
export function associate(frames: readonly (readonly Sighting[])[]): Person[] {
  const people: Person[] = [];
  for (const sightings of frames) {
    const costs = people.map((person) => sightings.map((sighting) => cost(person, sighting)));
    const taken = cheapest(costs, people.length, sightings.length);
    const used = new Set<number>();
    taken.forEach((k, i) => {
      if (k < 0) return;
      used.add(k);
      const person = people[i];
      person.sightings.push(sightings[k]);
      person.appearance = blendAppearance(person.appearance, sightings[k].appearance, MEMORY);
    });
    sightings.forEach((sighting, k) => {
      if (!used.has(k)) people.push({ sightings: [sighting], appearance: sighting.appearance });
    });
  }
  const least = Math.max(1, Math.ceil(frames.length * LEAST_PART));
  const sorted = people
    .filter((person) => person.sightings.length >= least)
    .sort((a, b) => b.sightings.length * meanSize(b) - a.sightings.length * meanSize(a));
  return sorted.filter((person, i) => !isMixture(person, sorted.slice(0, i)));
}

/** What somebody looks like by all sightings of them, the latest counting most. */
export const appearanceOf = (sightings: readonly Sighting[]): Appearance =>
  sightings
    .slice(1)
    .reduce(
      (known, { appearance }) => blendAppearance(known, appearance, MEMORY),
      sightings[0]?.appearance ?? new Float32Array(),
    );

/** Two people who pass each other are at times seen as a third one between them: nobody who is only ever seen there counts. */
function isMixture(person: Person, surer: readonly Person[]): boolean {
  const beside = person.sightings.filter((sighting) => {
    const size = sizeOf(sighting);
    return surer.some((other) => {
      const place = hipAt(other, sighting.frame);
      return Math.hypot(place[0] - sighting.hip[0], place[1] - sighting.hip[1]) < BESIDE * size;
    });
  });
  return beside.length > person.sightings.length / 2;
}

/** Where somebody's hips were between the sightings round a frame. */
export function hipAt({ sightings }: Person, frame: number): [number, number] {
  const next = sightings.findIndex((sighting) => sighting.frame >= frame);
  const after = sightings[next < 0 ? sightings.length - 1 : next];
  const before = sightings[Math.max(0, (next < 0 ? sightings.length : next) - 1)];
  const t =
    after.frame === before.frame ? 0 : Math.min(1, Math.max(0, (frame - before.frame) / (after.frame - before.frame)));
  return [before.hip[0] + (after.hip[0] - before.hip[0]) * t, before.hip[1] + (after.hip[1] - before.hip[1]) * t];
}

function meanSize(person: Person): number {
  return person.sightings.reduce((sum, sighting) => sum + sizeOf(sighting), 0) / person.sightings.length;
}

function cost(person: Person, sighting: Sighting): number {
  const last = person.sightings[person.sightings.length - 1];
  const before = person.sightings[person.sightings.length - 2];
  const gap = sighting.frame - last.frame;
  const pace = before ? 1 / (last.frame - before.frame) : 0;
  const ahead = Math.min(gap, 12);
  const x = last.hip[0] + (before ? (last.hip[0] - before.hip[0]) * pace * ahead : 0);
  const y = last.hip[1] + (before ? (last.hip[1] - before.hip[1]) * pace * ahead : 0);
  const size = Math.max(sizeOf(last), sizeOf(sighting));
  const colour = unlikeness(person.appearance, sighting.appearance);
  if (colour > OTHER_CLOTHES) return Infinity;
  // The longer somebody was hidden, the less their last place says.
  const place = Math.hypot(sighting.hip[0] - x, sighting.hip[1] - y) / size / (1 + gap / 15);
  return place + 0.5 * Math.abs(Math.log(sizeOf(sighting) / sizeOf(last))) + COLOUR_WEIGHT * colour;
}

/** The cheapest assignment of rows to columns; −1 where leaving a row out is cheaper than FARTHEST. */
function cheapest(costs: number[][], rows: number, columns: number): number[] {
  let best: { total: number; taken: number[] } = { total: Infinity, taken: new Array<number>(rows).fill(-1) };
  const taken = new Array<number>(rows).fill(-1);
  const used = new Array<boolean>(columns).fill(false);
  const go = (row: number, total: number): void => {
    if (total >= best.total) return;
    if (row === rows) {
      best = { total, taken: [...taken] };
      return;
    }
    for (let k = 0; k < columns; k++) {
      if (used[k] || !(costs[row][k] < FARTHEST)) continue;
      used[k] = true;
      taken[row] = k;
      go(row + 1, total + costs[row][k]);
      used[k] = false;
    }
    taken[row] = -1;
    go(row + 1, total + FARTHEST);
  };
  go(0, 0);
  return best.taken;
}
