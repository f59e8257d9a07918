import { likeliestCourse } from './likeliest';

/** When each sole point rests: a weight for each frame, 0 … 1, ramped at the ends. */
export type Contacts = Float64Array[];

/** What contacts are found from. */
export interface SoleEvidence {
  /** frames × soles × 3, metres, floor at y = 0. */
  track: Float64Array;
  /** Where each sole would stand on the floor, see `floorSight`; null where there is no picture. */
  sight: Float64Array | null;
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

const LEAST_FRAMES = 4;
const RAMP = 3;
/** Speed along the view is uncertain: it counts for less. */
const ALONG = 0.3;

/**
 * Log-odds of resting: a logistic regression on height, speed in space, and speed over the floor by sight in its own
 * uncertainty (the latter two as logarithms), fitted to the soles of the demo clips and of the workshop;
 * its constant was raised from 1.06, because a rest that is missed slides while one too many only holds still.
 */
const ODDS = { alone: 2, height: -1.71 / 0.05, speed: -1.23, sight: -1.67 };
const LEAST_SPEED = 0.05;
const LEAST_SIGHT = 0.15;
/** Standard deviation of a speed by sight beside its own doubt, m/s. */
const SIGHT_SPREAD = 0.25;
/** Soles that stay higher than this don't rest however still they are: metres, and the odds against it for each metre more. */
const HIGH = 0.05;
const TOO_HIGH = 200;
/** A mark strays by so many pixels, over some frames alike. */
const MARK_PIXELS = 1.5;
/** Frames to either side that a speed by sight is taken from, at 30 frames/s. */
const SIGHT_REACH = 3;

/** Cost of each beginning and end of a rest, in log-odds. */
const CHANGE = 1;

/** Nobody flies whose hips don't fall: upward acceleration above which they don't, m/s²; seconds to either side that it is taken over; what flying without it costs in each frame. */
const FALLS = -5;
const FALL_REACH = 0.13;
const FLYING = 3;

/**
 * Finds when heels and toes rest: how low each is and how slow, in space and by its picture over the floor, speaks for it
 * or against it; of all courses that the soles may take together the likeliest is chosen. In it soles seldom change, and
 * nobody has all of them in the air whose hips do not fall as free bodies do.
 */
export function findContacts(evidence: SoleEvidence): Contacts {
  const { frames, soles } = evidence;
  const speaks = new Float64Array(frames * soles);
  for (let frame = 0; frame < frames; frame++)
    for (let s = 0; s < soles; s++) speaks[frame * soles + s] = restEvidence(evidence, s, frame);
  const found = likeliestCourse(speaks, soles, flyingCosts(evidence), CHANGE);
  for (const resting of found) {
    flipShort(resting, 0, LEAST_FRAMES);
    flipShort(resting, 1, LEAST_FRAMES);
  }
  return found.map(ramped);
}

function restEvidence(evidence: SoleEvidence, s: number, frame: number): number {
  const { track, soles, slack } = evidence;
  const height = track[(frame * soles + s) * 3 + 1] / slack;
  const [run, doubt] = speedBySight(evidence, s, frame);
  const speed = speedInSpace(evidence, s, frame);
  // What was not seen has no other speed than the one in space.
  const sight = Number.isNaN(run) ? speed / SIGHT_SPREAD : run / Math.hypot(SIGHT_SPREAD, doubt);
  return (
    ODDS.alone +
    ODDS.height * Math.max(0, height) +
    ODDS.speed * Math.log(speed + LEAST_SPEED) +
    ODDS.sight * Math.log(sight + LEAST_SIGHT) -
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

/**
 * Speed over the floor of a sole that is taken to stand on it: the slope of a line through the neighbouring frames.
 * @returns metres in a second, and the standard error of it; NaN where too little is seen.
 */
function speedBySight({ sight, soles, frames, rate }: SoleEvidence, s: number, frame: number): [number, number] {
  if (!sight) return [NaN, 0];
  const reach = Math.max(2, Math.round((SIGHT_REACH * rate) / 30));
  let [n, t1, t2, x, z, xt, zt] = [0, 0, 0, 0, 0, 0, 0];
  for (let k = Math.max(0, frame - reach); k <= Math.min(frames - 1, frame + reach); k++) {
    const at = (k * soles + s) * 3;
    if (Number.isNaN(sight[at])) continue;
    const t = (k - frame) / rate;
    n++;
    t1 += t;
    t2 += t * t;
    x += sight[at];
    z += sight[at + 1];
    xt += t * sight[at];
    zt += t * sight[at + 1];
  }
  if (n < 4) return [NaN, 0];
  const spread = n * t2 - t1 * t1;
  const speed = Math.hypot((n * xt - t1 * x) / spread, (n * zt - t1 * z) / spread);
  return [speed, (MARK_PIXELS * sight[(frame * soles + s) * 3 + 2]) / Math.sqrt(spread / n)];
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

function ramped(resting: Uint8Array): Float64Array {
  const out = new Float64Array(resting.length);
  for (let frame = 0; frame < resting.length; frame++) {
    if (!resting[frame]) continue;
    let edge = RAMP;
    for (let k = 1; k < RAMP; k++) {
      const [before, after] = [frame - k, frame + k];
      if ((before >= 0 && !resting[before]) || (after < resting.length && !resting[after])) {
        edge = k;
        break;
      }
    }
    out[frame] = edge / RAMP;
  }
  return out;
}
