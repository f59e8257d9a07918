import { MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { bridgeValues } from '../../signal/bridge';
import { gaussianColumns } from '../../signal/gaussian';
import { runsWhere } from '../../signal/runs';
import { SIDES } from '../../motion/humanoid';
import { aroundEach, differences, FOURTH_DIFFERENCE, SECOND } from '../differences';
import { MARK_PARTS } from '../body/joint-offsets';
import { TRUNK, trunkPixels } from '../../observe/trunk';

/** How strongly a mark speeds up, in the picture and along the view, frame by frame, m/s². */
export interface Agility {
  across: Float64Array;
  along: Float64Array;
}

/** That of every mark that the fit follows. */
export type Agilities = ReadonlyMap<MarkName, Agility>;

/** Seconds over which marks are smoothed before they are differentiated, and over which the network's depth is, which shakes more. */
const CALM = 0.04;
const CALM_ALONG = 0.1;
/** Seconds to either side over which accelerations count together. */
const REACH = 0.1;
const REACH_ALONG = 0.6;
/**
 * How much more than independent errors a mark's own shake leaves in the accelerations of its smoothed path, squared; and
 * the most that is taken out of what fourth differences tell, which at low frame rates is the movement itself.
 */
const SHAKE = 2.33;
const MOST_SHAKE = 0.15;
/** Sum of squares of the coefficients of a fourth difference: what it makes of independent errors (variance). */
const FOURTH = 70;

/**
 * How strongly a mark was sped up around each frame, by its path over the picture and, for arms, by the network's depth:
 * what moves that way is free to, what rests is held calm. The variance of accelerations is that of the smoothed
 * path without what the mark's shake brings in, which fourth differences tell (empirical Bayes; Robbins, 1956).
 * Legs have contacts to tell how they move along the view, so that the network's depth does not count for them.
 * @param trunk length of the trunk in the picture, frame by frame, pixels; 0 where nobody is seen at all.
 * @param scale metres for one metre of the network.
 */
export function agilityOf(observations: BodyObservations, mark: MarkName, trunk: Float64Array, scale: number): Agility {
  const { frames, rate, marks, world } = observations;
  const at = (frame: number): number => (frame * MARK_COUNT + MARK[mark]) * 3;
  const metres = trunk.map((pixels) => (pixels > 0 ? (TRUNK / pixels) * rate * rate : 0));
  const path = evenOver(frames, 2, (frame, k) => marks[at(frame) + k]);
  const speedUp = differences(gaussianColumns(path, 2, CALM * rate), 2, SECOND, metres);
  const shake = differences(path, 2, FOURTH_DIFFERENCE, metres);
  const left = Math.min(MOST_SHAKE, SHAKE * leftOfNoise(CALM * rate));
  const across = aroundEach(
    speedUp.map((square, frame) => square - (left * shake[frame]) / FOURTH),
    Math.round(REACH * rate),
  );
  if (!/Shoulder|Elbow|Wrist/.test(mark)) return { across, along: new Float64Array(frames) };
  const depth = evenOver(frames, 1, (frame) => world[at(frame) + 2] * scale);
  const away = differences(gaussianColumns(depth, 1, CALM_ALONG * rate), 1, SECOND, metres.fill(rate * rate));
  return { across, along: aroundEach(away, Math.round(REACH_ALONG * rate)) };
}

/** What second differences of a path that was smoothed keep of independent errors of variance 1. @param sigma of the smoothing, frames. */
function leftOfNoise(sigma: number): number {
  const single = new Float32Array(2 * Math.ceil(sigma * 3) + 7);
  single[(single.length - 1) / 2] = 1;
  const smoothed = gaussianColumns(single, 1, sigma);
  return differences(smoothed, 1, SECOND, new Float64Array(single.length).fill(1)).reduce((a, b) => a + b, 0);
}

/** How strongly each mark that the fit follows was sped up. @param scale metres for one metre of the network. */
export function agilities(observations: BodyObservations, scale: number): Agilities {
  const trunk = Float64Array.from(evenOver(observations.frames, 1, (f) => trunkPixels(observations.marks, f)));
  const marks = SIDES.flatMap((side) => MARK_PARTS.map((part): MarkName => `${side}${part}`));
  return new Map(marks.map((mark) => [mark, agilityOf(observations, mark, trunk, scale)]));
}

/** Columns of values that go straight over gaps and are held at the ends; 0 where there are none at all. */
function evenOver(frames: number, width: number, value: (frame: number, k: number) => number): Float32Array {
  const out = new Float32Array(frames * width);
  for (let k = 0; k < width; k++) {
    const column = Float32Array.from({ length: frames }, (_, frame) => value(frame, k));
    if (!column.some(Number.isFinite)) continue;
    for (const [from, until] of runsWhere(frames, (frame) => !Number.isFinite(column[frame])))
      bridgeValues(column, from, until);
    column.forEach((here, frame) => (out[frame * width + k] = here));
  }
  return out;
}
