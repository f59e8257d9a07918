/**
 * The likeliest course of several things that are on or off, from how much speaks for each being on in each frame:
 * dynamic programming over all their joint states (A. J. Viterbi, "Error bounds for convolutional codes", 1967).
 * @param evidence frames × things: above 0 speaks for on, below for off.
 * @param alloff frames: cost of a frame in which all are off.
 * @param change cost of each switching on or off.
 * @returns for each thing, 1 where it is on.
 */
export function likeliestCourse(
  evidence: Float64Array,
  things: number,
  alloff: Float64Array,
  change: number,
): Uint8Array[] {
  const frames = alloff.length;
  const states = 1 << things;
  const from = new Uint8Array(frames * states);
  let best = new Float64Array(states);
  let next = new Float64Array(states);
  for (let frame = 0; frame < frames; frame++) {
    for (let state = 0; state < states; state++) {
      let own = state === 0 ? -alloff[frame] : 0;
      for (let t = 0; t < things; t++) if (state & (1 << t)) own += evidence[frame * things + t];
      let [most, before] = [-Infinity, state];
      for (let old = 0; old < states && frame > 0; old++) {
        const value = best[old] - change * BITS[old ^ state];
        if (value > most) [most, before] = [value, old];
      }
      next[state] = own + (frame > 0 ? most : 0);
      from[frame * states + state] = before;
    }
    [best, next] = [next, best];
  }
  const out = Array.from({ length: things }, () => new Uint8Array(frames));
  let state = best.indexOf(Math.max(...best));
  for (let frame = frames - 1; frame >= 0; frame--) {
    for (let t = 0; t < things; t++) out[t][frame] = (state >> t) & 1;
    state = from[frame * states + state];
  }
  return out;
}

/** How many bits are set. */
const BITS = Uint8Array.from({ length: 256 }, (_, i) => i.toString(2).replaceAll('0', '').length);
