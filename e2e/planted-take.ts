import { PLANTERS } from '@merry-shadow/core/measure/planted-faults';
import { copyMotion, type Motion } from '@merry-shadow/core/motion/motion';
import { motionColumns } from '@merry-shadow/core/motion/columns';
import type { SolvedTake } from '@merry-shadow/core/solve/solve-take';
import type { SnagKind } from '@merry-shadow/core/snags/snag';

/** A fault of the whole job: frames from … until − 1 of the take. */
export interface JobFault {
  kind: SnagKind;
  from: number;
  until: number;
  /** See `PLANTERS`. */
  size?: number;
}

/** The usual faults of a take of ten seconds. */
export const JOB_FAULTS: readonly JobFault[] = [
  { kind: 'pop', from: 40, until: 41, size: 35 },
  { kind: 'hover', from: 60, until: 84, size: 0.08 },
  { kind: 'swap', from: 104, until: 112, size: 1 },
  { kind: 'gap', from: 130, until: 142 },
  { kind: 'shake', from: 160, until: 184, size: 6 },
  { kind: 'slide', from: 200, until: 220, size: 0.006 },
  { kind: 'crossing', from: 236, until: 250, size: 1 },
];

/** The take with faults in its motion, and what the solve would have told of them. The take itself is left alone. */
export function plantFaults(solved: SolvedTake): SolvedTake {
  const motion = copyMotion(solved.motion);
  const bridged = solved.bridged.slice();
  for (const { kind, from, until, size = 0 } of JOB_FAULTS) {
    if (kind === 'gap') {
      bridged.fill(1, from, until);
      goStraight(motion, from, until);
    } else if (kind === 'slide') slideAndBack(motion, from, until, size);
    else if (!PLANTERS[kind]?.plant(motion, from, until, size))
      throw new Error(`A ${kind} does not apply at frame ${from}.`);
  }
  return { ...solved, motion, bridged };
}

/** What is not seen goes straight from where it was seen last to where it is seen next. */
function goStraight(motion: Motion, from: number, until: number): void {
  for (const { width, data } of motionColumns(motion))
    for (let f = from; f < until; f++) {
      const share = (f - from + 1) / (until - from + 1);
      for (let k = 0; k < width; k++) {
        const [a, b] = [data[(from - 1) * width + k], data[until * width + k]];
        data[f * width + k] = a + share * (b - a);
      }
      if (width !== 4) continue;
      const length = Math.hypot(...data.subarray(f * 4, f * 4 + 4));
      for (let k = 0; k < 4; k++) data[f * 4 + k] /= length;
    }
}

/** The whole body slides to the side and back. @param size metres a frame. */
function slideAndBack(motion: Motion, from: number, until: number, size: number): void {
  const half = (until - from) / 2;
  for (let f = from; f < until; f++) motion.root[f * 3] += size * (half - Math.abs(f - from - half));
}
