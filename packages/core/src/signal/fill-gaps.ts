import { smoothStep } from '../motion/turns-from-axes';
import { runsWhere } from './runs';

/** Gaps up to this length lead straight over, seconds; longer ones pass over into what stands in them, this fast. */
const BRIDGED = 0.5;
const EASE = 0.25;

/**
 * Fills the frames that nothing was seen in: short gaps lead from before to after, in longer ones both ends pass over into what the columns hold there.
 * Changes the columns in place.
 * @param seen 0 where nothing was seen.
 */
export function fillGaps(columns: Float32Array, width: number, seen: Float32Array, rate: number): void {
  const frames = seen.length;
  const own = columns.slice();
  for (const [from, until] of runsWhere(frames, (frame) => seen[frame] === 0)) {
    const [before, after] = [from - 1, until];
    const short = before >= 0 && after < frames && until - from <= BRIDGED * rate;
    for (let frame = from; frame < until; frame++) {
      const part = (frame - before) / (after - before);
      const near = short ? (part < 0.5 ? before : after) : nearest(frame, before, after, frames);
      const ease = near < 0 ? 1 : smoothStep(0, 1, Math.abs(frame - near) / (EASE * rate));
      for (let c = 0; c < width; c++) {
        const at = frame * width + c;
        columns[at] = short
          ? own[before * width + c] + smoothStep(0, 1, part) * (own[after * width + c] - own[before * width + c])
          : near < 0
            ? own[at]
            : own[near * width + c] + ease * (own[at] - own[near * width + c]);
      }
    }
  }
}

/** The nearer end of a gap that was seen; −1 if there is none. */
function nearest(frame: number, before: number, after: number, frames: number): number {
  if (before < 0) return after < frames ? after : -1;
  if (after >= frames) return before;
  return frame - before <= after - frame ? before : after;
}
