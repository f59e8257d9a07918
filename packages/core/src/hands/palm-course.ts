import { quat } from 'gl-matrix';

/** One way in which a hand may lie in a frame, and how unlikely it is by itself (0 likely; half a squared deviation). */
export interface PalmSight {
  turn: quat;
  cost: number;
}

/**
 * How far a hand turns from one frame to another: what measuring adds, radians, and what it moves, radians a second. Slower than hands can go, chosen on made-up
 * hands that were learned from: what turns over in a moment is rather the network's mistake.
 */
const MEASURED = 0.15;
const TURNED = 3;
/** A jump costs no more than this, so that what was seen after a gap counts by itself. */
const MOST = 20;

/**
 * The likeliest course of a hand through what it may have been in each frame (dynamic programming, A. Viterbi, 1967): so a palm that the
 * network takes for its mirror image now and then is brought back by what came before and after.
 * @param frames the possibilities of each frame; none where no hand was seen.
 * @returns the place of the chosen one in each frame, −1 where there was none.
 */
export function likeliestPalms(frames: readonly (readonly PalmSight[])[], rate: number): Int32Array {
  const chosen = new Int32Array(frames.length).fill(-1);
  const seen = frames.flatMap((sights, frame) => (sights.length > 0 ? [frame] : []));
  let best: number[] = [];
  const from: number[][] = [];
  seen.forEach((frame, i) => {
    const sights = frames[frame];
    if (i === 0) {
      best = sights.map(({ cost }) => cost);
      from.push([]);
      return;
    }
    const before = frames[seen[i - 1]];
    const spread = MEASURED + (TURNED * (frame - seen[i - 1])) / rate;
    const back: number[] = [];
    best = sights.map(({ turn, cost }) => {
      let [least, way] = [Infinity, 0];
      before.forEach((other, k) => {
        const total = best[k] + Math.min(MOST, 0.5 * (angleBetween(turn, other.turn) / spread) ** 2);
        if (total < least) [least, way] = [total, k];
      });
      back.push(way);
      return least + cost;
    });
    from.push(back);
  });
  let at = best.indexOf(Math.min(...best));
  for (let i = seen.length - 1; i >= 0; i--) {
    chosen[seen[i]] = at;
    at = from[i][at] ?? 0;
  }
  return chosen;
}

/** The angle of the turn from one to another, radians, 0 … π. */
export function angleBetween(a: Readonly<quat>, b: Readonly<quat>): number {
  return 2 * Math.acos(Math.min(1, Math.abs(quat.dot(a, b))));
}
