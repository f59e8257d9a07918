import { likeliestCourse } from './likeliest';
import type { PictureRun } from './sole-picture';

/** When each sole point rests: a weight for each frame, 0 … 1, ramped at the ends. */
export type Contacts = Float64Array[];

/** What contacts are found from. */
export interface SoleEvidence {
  /** frames × soles × 3, metres, floor at y = 0. */
  track: Float64Array;
  /** How each sole runs over the picture; null where there is none. */
  picture: readonly PictureRun[] | null;
  soles: number;
  frames: number;
  rate: number;
  /** Direction from the camera, unit vector. */
  view: readonly number[];
  /** Height of the hips, frame by frame, metres. */
  hips: Float64Array;
  /** Heights count by this: above 1 while the floor is not yet known well. */
  slack: number;
}

/** The shortest rest and gap, and the ramp at the ends of a rest, seconds. */
const LEAST = 0.133;
const RAMP = 0.1;
/** Speed along the view is uncertain: it counts for less. */
const ALONG = 0.3;

/**
 * Log-odds of resting: a logistic regression on height (metres), speed in space, and speed over the picture against its own
 * unevenness (the latter two as logarithms), fitted to the soles of the demo clips and of the workshop.
 */
const ODDS = { alone: -0.99 - 0.3, height: -4, speed: -2.57, picture: -1.45 };
const LEAST_SPEED = 0.05;
/** Speed over the picture that is nothing, m/s, the part of the unevenness that it counts against, and the least of their ratio. */
const NO_SPEED = 0.05;
const UNEVEN = 0.32;
const LEAST_RATIO = 0.5;
/** Soles that stay higher than this don't rest however still they are: metres, and the odds against it for each metre more. */
const HIGH = 0.08;
const TOO_HIGH = 100;
/** Cost of each beginning and end of a rest, in log-odds. */
const CHANGE = 1;

/** Nobody flies whose hips don't fall: upward acceleration above which they don't, m/s²; seconds to either side that it is taken over; what flying without it costs in each frame. */
const FALLS = -5;
const FALL_REACH = 0.13;
const FLYING = 3;

/**
 * Finds when heels and toes rest: how low each is and how slow, in space and over the picture, speaks for it
 * or against it; of all courses that the soles may take together the likeliest is chosen. In it soles seldom change, and
 * nobody has all of them in the air whose hips do not fall as free bodies do.
 */
export function findContacts(evidence: SoleEvidence): Contacts {
  const { frames, soles, rate } = evidence;
  const speaks = new Float64Array(frames * soles);
  for (let frame = 0; frame < frames; frame++)
    for (let s = 0; s < soles; s++) speaks[frame * soles + s] = restEvidence(evidence, s, frame);
  const found = likeliestCourse(speaks, soles, flyingCosts(evidence), CHANGE);
  const least = Math.max(2, Math.round(LEAST * rate));
  for (const resting of found) {
    flipShort(resting, 0, least);
    flipShort(resting, 1, least);
  }
  return found.map((resting) => ramped(resting, Math.max(1, Math.round(RAMP * rate))));
}

function restEvidence(evidence: SoleEvidence, s: number, frame: number): number {
  const { track, soles, slack } = evidence;
  const height = track[(frame * soles + s) * 3 + 1] / slack;
  const speed = speedInSpace(evidence, s, frame);
  const seen = evidence.picture?.[s].speed[frame] ?? NaN;
  // What was not seen has no other speed than the one in space.
  const run = Number.isNaN(seen) ? speed : seen;
  const doubt = Number.isNaN(seen) ? 0 : UNEVEN * (evidence.picture?.[s].uneven[frame] || 0);
  return (
    ODDS.alone +
    ODDS.height * Math.max(0, height) +
    ODDS.speed * Math.log(speed + LEAST_SPEED) +
    ODDS.picture * Math.log((run * run) / (NO_SPEED * NO_SPEED + doubt * doubt) + LEAST_RATIO) -
    TOO_HIGH * Math.max(0, height - HIGH)
  );
}

/** What it costs in each frame to have all soles in the air: nothing while the hips fall freely (a parabola through some frames). */
function flyingCosts({ hips, frames, rate }: SoleEvidence): Float64Array {
  const reach = Math.max(2, Math.round(FALL_REACH * rate));
  return Float64Array.from({ length: frames }, (_, frame) => {
    const middle = Math.min(frames - 1 - reach, Math.max(reach, frame));
    if (middle < reach) return FLYING;
    let [n, t2, t4, y, yt2] = [0, 0, 0, 0, 0];
    for (let k = -reach; k <= reach; k++) {
      const square = (k / rate) ** 2;
      n++;
      t2 += square;
      t4 += square * square;
      y += hips[middle + k];
      yt2 += hips[middle + k] * square;
    }
    const acceleration = (2 * (n * yt2 - t2 * y)) / (n * t4 - t2 * t2);
    return acceleration < FALLS ? 0 : FLYING;
  });
}

function speedInSpace({ track, soles, frames, rate, view }: SoleEvidence, s: number, frame: number): number {
  const reach = Math.max(1, Math.round(rate / 30));
  const [from, to] = [Math.max(0, frame - reach), Math.min(frames - 1, frame + reach)];
  const span = (to - from) / rate || 1;
  let [square, along] = [0, 0];
  for (let k = 0; k < 3; k++) {
    const d = (track[(to * soles + s) * 3 + k] - track[(from * soles + s) * 3 + k]) / span;
    square += d * d;
    along += d * view[k];
  }
  return Math.hypot(Math.sqrt(Math.max(0, square - along * along)), ALONG * along);
}

/** Turns over runs of a value that are too short to be true; a run of rest is at an end, too, a gap may go on beyond it. */
function flipShort(resting: Uint8Array, value: 0 | 1, least: number): void {
  for (let start = 0; start < resting.length;) {
    let end = start;
    while (end < resting.length && resting[end] === resting[start]) end++;
    const inside = value === 1 || (start > 0 && end < resting.length);
    if (resting[start] === value && inside && end - start < least) resting.fill(1 - value, start, end);
    start = end;
  }
}

/** Weights that rise and fall over some frames at the ends of rests. */
function ramped(resting: Uint8Array, ramp: number): Float64Array {
  const out = new Float64Array(resting.length);
  for (let frame = 0; frame < resting.length; frame++) {
    if (!resting[frame]) continue;
    let edge = ramp;
    for (let k = 1; k < ramp; k++) {
      const [before, after] = [frame - k, frame + k];
      if ((before >= 0 && !resting[before]) || (after < resting.length && !resting[after])) {
        edge = k;
        break;
      }
    }
    out[frame] = edge / ramp;
  }
  return out;
}
