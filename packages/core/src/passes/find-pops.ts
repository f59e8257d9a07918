import type { Motion } from '../motion/motion';
import { median, neverTurns, offMiddle, turnBetween } from '../signal/joint-columns';

/** A joint that jumps away and comes back within a few frames. */
export interface Pop {
  /** −1 is the path of the root. */
  joint: number;
  /** Frames from … until − 1. */
  from: number;
  until: number;
  /** How far it jumps, radians; metres for the root. */
  size: number;
}

export interface PopLimits {
  /** Smallest jump that counts, radians. */
  angle: number;
  /** Smallest jump of the root, metres. */
  way: number;
  /** Most frames of a pop. */
  frames: number;
}

/** What counts as a pop unless a person says otherwise. */
export const POP_LIMITS: PopLimits = { angle: (12 * Math.PI) / 180, way: 0.04, frames: 2 };

/** A jump must be so many times larger than what the joint usually does around it (Hampel's rule). */
const TIMES = 4;
/** Frames to either side that tell what is usual. */
const AROUND = 12;

/**
 * Finds pops: spans of up to a few frames that lie far from the line between their neighbours, while the
 * neighbours lie near each other. The threshold follows the movement around it (F. R. Hampel, "The influence
 * curve and its role in robust estimation", 1974), so that fast gestures, which go on, are left alone.
 */
export function findPops(motion: Motion, limits: PopLimits): Pop[] {
  const pops: Pop[] = [];
  for (let joint = -1; joint < motion.skeleton.joints.length; joint++) {
    if (joint >= 0 && neverTurns(motion, joint)) continue;
    const least = joint < 0 ? limits.way : limits.angle;
    const off = (frame: number): number => (joint < 0 ? rootOff(motion, frame) : offMiddle(motion, joint, frame));
    const apart = (a: number, b: number): number =>
      joint < 0 ? rootApart(motion, a, b) : turnBetween(motion, joint, a, b);
    const usual = Float64Array.from({ length: motion.frames }, (_, frame) => off(frame));
    for (let frame = 1; frame < motion.frames - 1; frame++) {
      if (usual[frame] < least / 3) continue;
      const found = popAt(frame);
      if (!found) continue;
      pops.push(found);
      frame = found.until;
    }
    function popAt(from: number): Pop | null {
      const around = Array.from(usual.subarray(Math.max(0, from - AROUND), from + AROUND + limits.frames));
      const limit = Math.max(least, TIMES * 1.4826 * median(around));
      for (let length = 1; length <= limits.frames; length++) {
        const [before, after] = [from - 1, from + length];
        if (after >= motion.frames) return null;
        const away = Math.min(apart(before, from), apart(after, after - 1));
        if (away > limit && apart(before, after) < away / 2) return { joint, from, until: after, size: away };
      }
      return null;
    }
  }
  return pops.sort((a, b) => a.from - b.from || a.joint - b.joint);
}

function rootApart({ root }: Motion, a: number, b: number): number {
  return Math.hypot(root[a * 3] - root[b * 3], root[a * 3 + 1] - root[b * 3 + 1], root[a * 3 + 2] - root[b * 3 + 2]);
}

function rootOff({ root, frames }: Motion, frame: number): number {
  const [a, b] = [frame - 1, frame + 1];
  if (a < 0 || b >= frames) return 0;
  const off = (k: number): number => root[frame * 3 + k] - (root[a * 3 + k] + root[b * 3 + k]) / 2;
  return Math.hypot(off(0), off(1), off(2));
}
