import { alignPoints, applyAlignment, meanDistance } from '@merry-shadow/core/motion/align-points';
import {
  bodyInput,
  correctionOf,
  facing,
  OUTPUT_SCALE,
  turnedBy,
  type Correction,
} from '@merry-shadow/core/solve/network/network-correction';
import { learnMap, type RidgeOptions } from './ridge';
import { mirrored, type Sample } from './samples';

/** Chosen on builders and recordings that were left out, and on our own older clips; a change by half of any changes little. */
const BELLS = { bells: 300, narrow: 4, bellRidge: 0.2 };
const CAMERA: RidgeOptions = { ridge: 0.02, ...BELLS };
const BODY: RidgeOptions = { ridge: 0.05, ...BELLS };
/** With less than all of it recordings that were left out come out better, builders that were left out a little worse. */
const SHARE = 0.85;
/** Errors of a point beyond this are another thing's: in `OUTPUT_SCALE`. */
const FARTHEST = 2.5;

/** Learns a correction, each frame also in a mirror. @param bells how many bells each of its maps has, 0 for linear ones. */
export function trainCorrection(samples: readonly Sample[], bells = BELLS.bells): Correction {
  const all = samples.flatMap((sample) => [sample, mirrored(sample)]);
  const off = all.map(({ points, joints }) =>
    joints.map((value, i) => Math.max(-FARTHEST, Math.min(FARTHEST, (value - points[i]) / OUTPUT_SCALE))),
  );
  return {
    camera: learnMap(
      all.map(({ input }) => input),
      off,
      { ...CAMERA, bells },
    ),
    body: learnMap(
      all.map(({ input }) => bodyInput(input)),
      off.map((values, n) => turnedBy(values, facing(all[n].input))),
      { ...BODY, bells },
    ),
    share: SHARE,
  };
}

/** PA-MPJPE of corrected points against that of the network's own: the mean of the clips' ratios. */
export function rawAgainst(samples: readonly Sample[], correction: Correction): number {
  const clips = new Map<string, [before: number, after: number]>();
  for (const { clip, input, points, joints } of samples) {
    const off = correctionOf(input, correction);
    const sums = clips.get(clip) ?? [0, 0];
    sums[0] += distance(points, joints);
    sums[1] += distance(
      points.map((value, i) => value + off[i]),
      joints,
    );
    clips.set(clip, sums);
  }
  const ratios = [...clips.values()].map(([before, after]) => after / before);
  return ratios.reduce((sum, ratio) => sum + ratio, 0) / ratios.length;
}

function distance(points: Float32Array, joints: Float32Array): number {
  return meanDistance(applyAlignment(alignPoints(points, joints, true), Float64Array.from(points)), joints);
}
