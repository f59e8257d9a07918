import { motionColumns, withFrames } from '../motion/columns';
import type { Motion } from '../motion/motion';
import type { Run } from './runs';

/** Frames from … until − 1 of a motion, as a motion of their own. */
export function sliceMotion(motion: Motion, from: number, until: number): Motion {
  if (from === 0 && until === motion.frames) return motion;
  const out = withFrames(motion, until - from);
  const parts = motionColumns(out);
  motionColumns(motion).forEach(({ width, data }, i) => parts[i].data.set(data.subarray(from * width, until * width)));
  return out;
}

/** Puts frames of one motion into another as they are, in place. @param at the frame of `target` where the first frame of `part` goes. */
export function setFrames(target: Motion, part: Motion, at: number): void {
  const sources = motionColumns(part);
  motionColumns(target).forEach(({ width, data }, i) => data.set(sources[i].data, at * width));
}

/**
 * Puts frames of one motion into another, in place. Turns go on over the seams: of q and −q, which turn alike, what was put in and what
 * follows take the one nearer to the frame before.
 */
export function pasteMotion(target: Motion, part: Motion, at: number): void {
  setFrames(target, part, at);
  for (const { width, data } of motionColumns(target)) {
    if (width !== 4) continue;
    continueTurn(data, at, at + part.frames);
    continueTurn(data, at + part.frames, target.frames);
  }
}

/** Changes the sign of frames from … until − 1 of a column of turns when they would not go on from the frame before. */
function continueTurn(data: Float32Array, from: number, until: number): void {
  if (from === 0 || from >= until) return;
  const at = from * 4;
  let dot = 0;
  for (let k = at; k < at + 4; k++) dot += data[k - 4] * data[k];
  if (dot < 0) for (let k = at; k < until * 4; k++) data[k] = -data[k];
}

/**
 * From the first to the last frame in which two motions of the same columns and length differ by a bit; null where none does.
 * @param within frames outside of which they are known to be the same.
 */
export function differingFrames(a: Motion, b: Motion, within: Run = [0, a.frames]): Run | null {
  if (a === b) return null;
  let [from, until] = [within[1], within[0]];
  const others = motionColumns(b);
  motionColumns(a).forEach(({ width, data }, i) => {
    const [one, two] = [bits(data), bits(others[i].data)];
    let k = within[0] * width;
    while (k < from * width && one[k] === two[k]) k++;
    from = Math.min(from, Math.floor(k / width));
    k = within[1] * width - 1;
    while (k >= until * width && one[k] === two[k]) k--;
    until = Math.max(until, Math.floor(k / width) + 1);
  });
  return until > from ? [from, until] : null;
}

const bits = (data: Float32Array): Int32Array => new Int32Array(data.buffer, data.byteOffset, data.length);
