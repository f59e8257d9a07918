import { SIDES } from '../motion/humanoid';
import { HAND_MARK_COUNT, type BothHands, type HandObservations } from '../observe/hands';

/** Two hands whose marks lie this near to each other, in lengths of the palm, are one hand that was seen twice. */
const ONE_HAND = 0.45;

/**
 * Leaves out hands that were seen on the other's place: where both show the same hand, the one stays that goes on as it went before.
 * Later code counts a presence of 0 as not seen.
 */
export function withoutOthersHands(hands: BothHands): BothHands {
  const frames = hands.left.presence.length;
  const presence = { left: hands.left.presence.slice(), right: hands.right.presence.slice() };
  for (let frame = 0; frame < frames; frame++) {
    if (!(presence.left[frame] > 0 && presence.right[frame] > 0)) continue;
    if (apart(hands, frame) > ONE_HAND) continue;
    const [near, far] = [...SIDES].sort(
      (a, b) => leap(hands[a], presence[a], frame) - leap(hands[b], presence[b], frame),
    );
    if (leap(hands[near], presence[near], frame) < leap(hands[far], presence[far], frame)) presence[far][frame] = 0;
  }
  return {
    left: { ...hands.left, presence: presence.left },
    right: { ...hands.right, presence: presence.right },
  };
}

const place = (marks: Float32Array, frame: number, mark: number): [number, number] => {
  const at = (frame * HAND_MARK_COUNT + mark) * 2;
  return [marks[at], marks[at + 1]];
};

function distance([ax, ay]: readonly number[], [bx, by]: readonly number[]): number {
  return Math.hypot(ax - bx, ay - by);
}

/** How far the marks of both hands are from each other on average, in lengths of the palm. */
function apart({ left, right }: BothHands, frame: number): number {
  let sum = 0;
  for (let mark = 0; mark < HAND_MARK_COUNT; mark++)
    sum += distance(place(left.marks, frame, mark), place(right.marks, frame, mark)) / HAND_MARK_COUNT;
  const palm = Math.max(...[left, right].map(({ marks }) => distance(place(marks, frame, 0), place(marks, frame, 9))));
  return sum / (palm || 1);
}

/** How far a hand's wrist is from where it was last seen, pixels a frame. */
function leap({ marks }: HandObservations, presence: Float32Array, frame: number): number {
  for (let before = frame - 1; before >= Math.max(0, frame - 12); before--)
    if (presence[before] > 0) return distance(place(marks, before, 0), place(marks, frame, 0)) / (frame - before);
  return Infinity;
}
