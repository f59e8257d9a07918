import { runsWhere } from '../signal/runs';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from './body';
import { trunkPixels } from './trunk';

/** What may be taken for each other, and what it costs to say so; all in trunk lengths of picture. */
export interface Tangle {
  /** Parts of which left and right trade places ("Knee"). */
  parts: readonly string[];
  /** Cost of taking them the other way round in a frame, and of beginning or ending to. */
  otherwise: number;
  change: number;
  /** What is added to the cost of a frame. */
  speaks?: (observations: BodyObservations, frame: number) => number;
}

/** A mark that departs farther than this from its course in one frame costs no more, in trunk lengths. */
const MOST = 0.5;
/** Frames between the three that are compared: neighbours, and farther apart, which sees through a change over several frames. */
const GAPS = [1, 3] as const;
/** Choices that are kept in mind. */
const MEMORY = 6;

/** Columns of left and right mark of a part. */
export const sidesOf = (part: string): readonly [left: number, right: number] => [
  MARK[`left${part}` as MarkName],
  MARK[`right${part}` as MarkName],
];

/**
 * Finds the frames in which the network took one side for the other: of all ways to tell the marks apart, frame by frame, the one
 * in which they run on most evenly (least second differences; dynamic programming over the last frames' choices, after Viterbi
 * 1967). Taking them as the network did is cheaper, so that it stands where nothing speaks against it.
 * @returns frames: 1 where left and right are the other way round.
 */
export function tangledFrames(observations: BodyObservations, tangle: Tangle): Uint8Array {
  const { frames } = observations;
  const out = new Uint8Array(frames);
  for (const [from, until] of runsWhere(frames, (frame) => isSeen(observations, frame), 4))
    untangleRun(observations, from, until, tangle, out);
  return out;
}

/** The same observations with left and right of some parts traded in the frames that are flagged. */
export function withSidesTraded(
  observations: BodyObservations,
  flags: Uint8Array,
  parts: readonly string[],
): BodyObservations {
  const [marks, world] = [observations.marks.slice(), observations.world.slice()];
  const depth = observations.depth?.slice();
  flags.forEach((flag, frame) => {
    if (!flag) return;
    for (const [a, b] of parts.map(sidesOf)) {
      const [left, right] = [(frame * MARK_COUNT + a) * 3, (frame * MARK_COUNT + b) * 3];
      for (const column of [marks, world])
        for (let k = 0; k < 3; k++) [column[left + k], column[right + k]] = [column[right + k], column[left + k]];
      if (depth) [depth[left / 3], depth[right / 3]] = [depth[right / 3], depth[left / 3]];
    }
  });
  return { ...observations, marks, world, depth };
}

function untangleRun(
  observations: BodyObservations,
  from: number,
  until: number,
  tangle: Tangle,
  out: Uint8Array,
): void {
  const { marks } = observations;
  const pairs = tangle.parts.map(sidesOf);
  const states = 1 << MEMORY;
  // A state holds the choices of the last frames, the newest in its lowest bit.
  let best = new Float64Array(states).fill(Infinity);
  let next = new Float64Array(states);
  best[0] = 0;
  best[states - 1] = tangle.otherwise + tangle.change;
  const oldest = new Uint8Array((until - from) * states);
  const costs = new Float64Array(GAPS.length * 8);
  for (let f = from; f < until; f++) {
    const otherwise = Math.max(0, tangle.otherwise + (tangle.speaks?.(observations, f) ?? 0));
    GAPS.forEach((gap, g) => {
      for (let choice = 0; choice < 8; choice++)
        costs[g * 8 + choice] =
          f - 2 * gap < from ? 0 : unevenness(marks, pairs, f, gap, choice >> 2, (choice >> 1) & 1, choice & 1);
    });
    next.fill(Infinity);
    for (let old = 0; old < states; old++) {
      if (best[old] === Infinity) continue;
      for (let now = 0; now < 2; now++) {
        const all = old * 2 + now;
        let cost = best[old] + now * otherwise + ((old & 1) === now ? 0 : tangle.change);
        for (let g = 0; g < GAPS.length; g++)
          cost += costs[g * 8 + ((all >> (2 * GAPS[g])) & 1) * 4 + ((all >> GAPS[g]) & 1) * 2 + now];
        const state = all & (states - 1);
        if (cost >= next[state]) continue;
        next[state] = cost;
        oldest[(f - from) * states + state] = old >> (MEMORY - 1);
      }
    }
    [best, next] = [next, best];
  }
  let state = best.indexOf(Math.min(...best));
  for (let f = until - 1; f >= from; f--) {
    out[f] = state & 1;
    state = (state >> 1) | (oldest[(f - from) * states + state] << (MEMORY - 1));
  }
}

/** How far the marks of a frame are from going on as in two before, in trunk lengths, summed; each choice 1 takes them the other way round. */
function unevenness(
  marks: Float32Array,
  pairs: readonly (readonly [number, number])[],
  frame: number,
  gap: number,
  earlier: number,
  before: number,
  now: number,
): number {
  const trunk = trunkPixels(marks, frame);
  let sum = 0;
  for (const pair of pairs) {
    for (let side = 0; side < 2; side++) {
      // With a choice of 1 the other side's mark is this one's.
      const a = ((frame - 2 * gap) * MARK_COUNT + pair[side ^ earlier]) * 3;
      const b = ((frame - gap) * MARK_COUNT + pair[side ^ before]) * 3;
      const c = (frame * MARK_COUNT + pair[side ^ now]) * 3;
      const off = Math.hypot(marks[c] - 2 * marks[b] + marks[a], marks[c + 1] - 2 * marks[b + 1] + marks[a + 1]);
      sum += Math.min(MOST, off / trunk);
    }
  }
  return sum;
}
