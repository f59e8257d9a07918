import { runsWhere } from '../motion/runs';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from './body';

const PARTS = ['Knee', 'Ankle', 'Heel', 'FootIndex'] as const;
const PAIRS = PARTS.map((part) => [MARK[`left${part}`], MARK[`right${part}`]] as const);
/** Cost of taking the legs the other way round in a frame, and of beginning or ending to, in trunk lengths of picture. */
const OTHERWISE = 0.02;
const SWITCH = 0.3;
/** How much more that costs for each trunk length by which the feet stand to their own sides of the hips. */
const SIDES = 0.15;
/** A mark that departs farther than this from its course in one frame costs no more, in trunk lengths. */
const MOST = 0.5;

/** The same observations with the legs told apart throughout: marks and points of tangled ones trade places. */
export function withLegsApart(observations: BodyObservations): BodyObservations {
  const tangled = tangledLegs(observations);
  if (!tangled.includes(1)) return observations;
  const [marks, world] = [observations.marks.slice(), observations.world.slice()];
  const depth = observations.depth?.slice();
  tangled.forEach((flag, frame) => {
    if (!flag) return;
    for (const part of PARTS) {
      const left = (frame * MARK_COUNT + MARK[`left${part}`]) * 3;
      const right = (frame * MARK_COUNT + MARK[`right${part}`]) * 3;
      for (const column of [marks, world])
        for (let k = 0; k < 3; k++) [column[left + k], column[right + k]] = [column[right + k], column[left + k]];
      if (depth) [depth[left / 3], depth[right / 3]] = [depth[right / 3], depth[left / 3]];
    }
  });
  return { ...observations, marks, world, depth };
}

/**
 * Finds the frames in which the network took one leg for the other, as happens when legs cross while the back is
 * turned: of all ways to tell the legs' marks apart, frame by frame, the one in which they run on most evenly (least
 * second differences; dynamic programming over the last two frames' choices, after Viterbi 1967). Taking them as the network
 * did is cheaper, so that it stands where nothing speaks against it.
 * @returns frames: 1 where left and right leg are the other way round.
 */
export function tangledLegs(observations: BodyObservations): Uint8Array {
  const { frames, marks } = observations;
  const out = new Uint8Array(frames);
  for (const [from, until] of runsWhere(frames, (frame) => isSeen(observations, frame), 4))
    untangleRun(marks, from, until, out);
  return out;
}

/** Frames between the three that are compared: neighbours, and farther apart, which sees through a change over several frames. */
const GAPS = [1, 3] as const;
/** Choices that are kept in mind. */
const MEMORY = 6;

function untangleRun(marks: Float32Array, from: number, until: number, out: Uint8Array): void {
  const states = 1 << MEMORY;
  // A state holds the choices of the last frames, the newest in its lowest bit.
  let best = new Float64Array(states).fill(Infinity);
  let next = new Float64Array(states);
  best[0] = 0;
  best[states - 1] = OTHERWISE + SWITCH;
  const oldest = new Uint8Array((until - from) * states);
  const costs = new Float64Array(GAPS.length * 8);
  for (let f = from; f < until; f++) {
    const otherwise = Math.max(0, OTHERWISE + SIDES * sidewise(marks, f));
    GAPS.forEach((gap, g) => {
      for (let choice = 0; choice < 8; choice++)
        costs[g * 8 + choice] =
          f - 2 * gap < from ? 0 : unevenness(marks, f, gap, choice >> 2, (choice >> 1) & 1, choice & 1);
    });
    next.fill(Infinity);
    for (let old = 0; old < states; old++) {
      if (best[old] === Infinity) continue;
      for (let now = 0; now < 2; now++) {
        const all = old * 2 + now;
        let cost = best[old] + now * otherwise + ((old & 1) === now ? 0 : SWITCH);
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

/** How far the leg marks of a frame are from going on as in two before, in trunk lengths, summed; each choice 1 takes them the other way round. */
function unevenness(
  marks: Float32Array,
  frame: number,
  gap: number,
  earlier: number,
  before: number,
  now: number,
): number {
  const trunk = trunkLength(marks, frame);
  let sum = 0;
  for (const pair of PAIRS) {
    for (let side = 0; side < 2; side++) {
      // With a choice of 1 the other leg's mark is this one's.
      const a = ((frame - 2 * gap) * MARK_COUNT + pair[side ^ earlier]) * 3;
      const b = ((frame - gap) * MARK_COUNT + pair[side ^ before]) * 3;
      const c = (frame * MARK_COUNT + pair[side ^ now]) * 3;
      const off = Math.hypot(marks[c] - 2 * marks[b] + marks[a], marks[c + 1] - 2 * marks[b + 1] + marks[a + 1]);
      sum += Math.min(MOST, off / trunk);
    }
  }
  return sum;
}

function trunkLength(marks: Float32Array, frame: number): number {
  const at = (name: MarkName): number => (frame * MARK_COUNT + MARK[name]) * 3;
  const side = (a: number, b: number): number => Math.hypot(marks[a] - marks[b], marks[a + 1] - marks[b + 1]);
  return Math.max(6, side(at('leftShoulder'), at('leftHip')), side(at('rightShoulder'), at('rightHip')));
}

/** How far left and right foot are to their own sides in the picture, as the hips tell the sides, in trunk lengths; below 0 where they are crossed. */
function sidewise(marks: Float32Array, frame: number): number {
  const x = (name: MarkName): number => marks[(frame * MARK_COUNT + MARK[name]) * 3];
  const trunk = trunkLength(marks, frame);
  const hips = (x('leftHip') - x('rightHip')) / trunk;
  return (Math.max(-1, Math.min(1, hips / SQUARE_HIPS)) * (x('leftAnkle') - x('rightAnkle'))) / trunk;
}

/** Width of hips seen square on, in trunk lengths. */
const SQUARE_HIPS = 0.35;
