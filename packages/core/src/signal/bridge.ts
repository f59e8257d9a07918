import { quat } from 'gl-matrix';
import { readRotation, writeRotation, type Motion } from '../motion/motion';
import { rotationVector, turnOfVector } from '../motion/rotation-vector';
import { smoothStep } from '../motion/turns-from-axes';

/**
 * Bridges a span of one joint, or of the root (−1), from the frames around it, going on with the speed that
 * they come and leave with: cubic Hermite for the root, for turns the same on the rotation that leads from
 * the one side to the other (as spherical cubics: K. Shoemake, SIGGRAPH 1985). Changes the motion in place.
 * @param from first frame of the span. @param until the one after its last.
 */
export function bridgeSpan(motion: Motion, joint: number, from: number, until: number): void {
  const [a, b] = [from - 1, until];
  if (a < 0 && b >= motion.frames) return;
  if (joint < 0) return bridgeRoot(motion, from, until);
  const read = (frame: number): quat => readRotation(motion, joint, frame, [0, 0, 0, 1]);
  if (a < 0 || b >= motion.frames) {
    const held = read(a < 0 ? b : a);
    for (let frame = from; frame < until; frame++) writeRotation(motion, joint, frame, held);
    return;
  }
  const span = b - a;
  const [start, end] = [read(a), read(b)];
  // Where each side would be, had it gone on alone; over a frame or two the noise of their speeds would count for more.
  const short = until - from <= SHORT;
  const onward = !short && a > 0 ? logBetween(read(a - 1), start) : STILL;
  const backward = !short && b + 1 < motion.frames ? logBetween(end, read(b + 1)) : STILL;
  for (let frame = from; frame < until; frame++) {
    const t = (frame - a) / span;
    const left = turnedOn(start, onward, EASE * (frame - a));
    const right = turnedOn(end, backward, -EASE * (b - frame));
    const share = smoothStep(0, 1, t);
    writeRotation(motion, joint, frame, quat.normalize(left, quat.slerp(left, left, right, share)));
  }
}

/** Frames over which a span is bridged straight. */
const SHORT = 3;
const STILL = [0, 0, 0];
/** Part of the speed at the ends that is taken over. */
const EASE = 0.6;

function bridgeRoot({ root, frames }: Motion, from: number, until: number): void {
  const [a, b] = [from - 1, until];
  for (let k = 0; k < 3; k++) {
    const value = (frame: number): number => root[frame * 3 + k];
    if (a < 0 || b >= frames) {
      for (let frame = from; frame < until; frame++) root[frame * 3 + k] = value(a < 0 ? b : a);
      continue;
    }
    const span = b - a;
    const [p, q] = [value(a), value(b)];
    const va = (a > 0 ? p - value(a - 1) : 0) * span;
    const vb = (b + 1 < frames ? value(b + 1) - q : 0) * span;
    for (let frame = from; frame < until; frame++) {
      const t = (frame - a) / span;
      const [t2, t3] = [t * t, t * t * t];
      root[frame * 3 + k] =
        (2 * t3 - 3 * t2 + 1) * p + (t3 - 2 * t2 + t) * va + (-2 * t3 + 3 * t2) * q + (t3 - t2) * vb;
    }
  }
}

/** Bridges a span of single values in a straight line, which leaves no range; at an end they are held. Changes the values in place. */
export function bridgeValues(values: Float32Array, from: number, until: number): void {
  const [a, b] = [from - 1, until];
  if (a < 0 && b >= values.length) return;
  const before = values[a < 0 ? b : a];
  const after = values[b >= values.length ? a : b];
  for (let frame = from; frame < until; frame++) values[frame] = before + ((after - before) * (frame - a)) / (b - a);
}

/** The turn from one rotation to the next as axis × angle, in the first one's own axes. */
const logBetween = (a: quat, b: quat): number[] =>
  rotationVector(quat.multiply([0, 0, 0, 1], quat.conjugate([0, 0, 0, 1], a), b));

const turnedOn = (from: quat, log: readonly number[], times: number): quat =>
  quat.multiply([0, 0, 0, 1], from, turnOfVector(log, times));
