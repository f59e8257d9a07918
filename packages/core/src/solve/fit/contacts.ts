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
  /** Heights count by this: above 1 while the floor is not yet known well. */
  slack: number;
}

type Hysteresis = readonly [enter: number, leave: number];
const HEIGHT: Hysteresis = [0.05, 0.08];
const SPEED: Hysteresis = [0.25, 0.5];
const LEAST_FRAMES = 4;
const RAMP = 3;
/** Speed along the view is uncertain: it counts for less. */
const ALONG = 0.3;
/** Speed over the floor, by sight, below which a sole rests and above which it does not, m/s, and how many of its standard errors are added. */
const SIGHT_RESTS: Hysteresis = [0.2, 0.35];
const SIGHT_RUNS: Hysteresis = [0.6, 0.9];
const RESTS_ERRORS = 2;
const RUNS_ERRORS = 4;
/** A mark strays by so many pixels, over some frames alike. */
const MARK_PIXELS = 1.5;
/** Frames to either side that a speed by sight is taken from, at 30 frames/s. */
const SIGHT_REACH = 3;

/** Longest moment between two rests that a step may take, seconds; soles lower than this, or than so much of a leap that took as long, do not fly. */
const BRIDGED = 0.34;
const NEAR_FLOOR = 0.05;
const LEAP_SHARE = 0.6;

/** Finds when heels and toes rest, with hysteresis on height and speed. */
export function findContacts(evidence: SoleEvidence): Contacts {
  const found = Array.from({ length: evidence.soles }, (_, s) => {
    const resting = new Uint8Array(evidence.frames);
    let on = false;
    for (let frame = 0; frame < evidence.frames; frame++) {
      on = rests(evidence, s, frame, on ? 1 : 0);
      resting[frame] = on ? 1 : 0;
    }
    flipShort(resting, 0, LEAST_FRAMES);
    flipShort(resting, 1, LEAST_FRAMES);
    return resting;
  });
  bridgeSteps(found, evidence);
  return found.map(ramped);
}

/**
 * Nobody who walks has both feet in the air: where no sole was found to rest for a moment and none is high, the
 * ones that rested before hold on for the first half of it, and those that rest after it for the second.
 */
function bridgeSteps(found: Uint8Array[], { track, soles, frames, rate }: SoleEvidence): void {
  const rests = (frame: number): boolean => found.some((resting) => resting[frame] > 0);
  const low = (frame: number, limit: number): boolean =>
    found.some((_, s) => track[(frame * soles + s) * 3 + 1] < limit);
  for (let from = 1; from < frames; from++) {
    if (rests(from)) continue;
    let until = from;
    while (until < frames && !rests(until)) until++;
    const seconds = (until - from) / rate;
    let grounded = until < frames && seconds <= BRIDGED;
    // A leap of that length would rise to g t² / 8.
    const limit = Math.max(NEAR_FLOOR, (LEAP_SHARE * 9.81 * seconds * seconds) / 8);
    for (let frame = from; frame < until; frame++) grounded &&= low(frame, limit);
    if (grounded) {
      const middle = (from + until) >> 1;
      for (const resting of found) {
        if (resting[from - 1]) resting.fill(1, from, middle);
        if (resting[until]) resting.fill(1, middle, until);
      }
    }
    from = until;
  }
}

/** @param i 0 to begin to rest, 1 to go on. */
function rests(evidence: SoleEvidence, s: number, frame: number, i: 0 | 1): boolean {
  const { track, soles, slack } = evidence;
  if (!(track[(frame * soles + s) * 3 + 1] < slack * HEIGHT[i])) return false;
  const [run, doubt] = speedBySight(evidence, s, frame);
  if (run > SIGHT_RUNS[i] + RUNS_ERRORS * doubt) return false;
  return run < SIGHT_RESTS[i] + RESTS_ERRORS * doubt || speedInSpace(evidence, s, frame) < SPEED[i];
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
