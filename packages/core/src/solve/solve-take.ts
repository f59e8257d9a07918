import { solveFace } from '../face/solve-face';
import { solveHands } from '../hands/solve-hands';
import type { Motion } from '../motion/motion';
import { unseenParts } from '../observe/unseen';
import { joinFootage, sliceFootage, type SolvedFootage } from '../observe/slice-footage';
import { isSeen, momentsOnly } from '../observe/body';
import { joinShots } from './shots/join-shots';
import { metricScale } from './body/metric-scale';
import { measureBody, type MeasuredBody } from './body/proportions';
import { solveHeldHead } from './held-head';
import { isSomebodyElse } from './observe/somebody-else';
import { groundOfShot } from './floor/shot-ground';
import { hintsWithin } from './hints/depth-hints';
import { shiftSwapped, type SwappedSides } from './hints/swapped-sides';
import { withToldMarks } from './hints/told-marks';
import { observeShot, type SeenShot } from './observe/observe-shot';
import { solveMeeting, type SharedShot } from './solve-meeting';
import { SolveError, type SolvedTake, type SolveOptions } from './solved';
import { foundCuts, shotAt, shotSpans } from './shots/shots';

export { SolveError, SOLVE_VERSION, type SolvedShot, type SolvedTake, type SolveOptions } from './solved';
export type { SolvedFootage } from '../observe/slice-footage';

/** Somebody must be seen for so long at a time, or nobody is convincingly there: seconds, and of a short take its greater part. */
const SEEN_SECONDS = 0.5;
const SEEN_SHARE = 0.6;
/** Frames that may be missed meanwhile. */
const MISSED = 2;
/** Frames in which somebody must be seen in a shot for it to be solved; else it is bridged. */
const LEAST_FRAMES = 4;

/**
 * Turns the observations of a take into a motion with constant bones, a root path in metres, +Y up
 * and the floor at y = 0. The hips start over the origin. A take with cuts is solved shot by shot, each with its own
 * camera and floor, on one body; the parts are joined in one world.
 * @throws SolveError when nobody was seen.
 */
export function solveTake(captured: SolvedFootage, options: SolveOptions = {}): SolvedTake {
  if (options.manner === 'held') return solveHeldHead(captured, options);
  const footage = momentsOnly(options.marks ? withToldMarks(captured, options.marks) : captured);
  checkSomebody(footage);
  const shots = observeShots(footage, options);
  const body = bodyOf(shots, options);
  const solved = shots.map((shot) => ({
    from: shot.from,
    until: shot.until,
    ...solveMeeting(shot, body, {
      ...options,
      hints: options.hints && hintsWithin(options.hints, shot.from, shot.until),
    }),
  }));
  const joined = joinShots(solved, footage.frames);
  return {
    ...joined,
    motion: withHandsAndFace(joined, footage, body, options),
    body,
    unseen: unseenParts(footage),
    ...cameraMovement(shots),
    floorDoubt: floorDoubt(shots, options),
  };
}

/** The joined motion with fingers and the face's curves, where they were captured. */
function withHandsAndFace(
  { motion, shots }: Pick<SolvedTake, 'motion' | 'shots'>,
  { hands, face, rate }: SolvedFootage,
  { proportions }: MeasuredBody,
  { fit, neutral, mouth }: SolveOptions,
): Motion {
  if (fit === false) return motion;
  const fingered = hands ? solveHands(motion, proportions, (frame) => shotAt(shots, frame).camera, hands) : motion;
  return face ? { ...fingered, curves: solveFace(face, rate, { neutral, mouth }) } : fingered;
}

/** Frames of a take that were filmed as one, and what was seen in them. */
interface ObservedShot extends SharedShot {
  from: number;
  until: number;
}

/** Cuts a take into shots and reads each; those in which nobody is seen are left out. @throws SolveError when none is left. */
function observeShots(footage: SolvedFootage, options: SolveOptions): ObservedShot[] {
  const spans = shotSpans(footage.frames, options.cuts ?? foundCuts(footage));
  const companions = (options.others ?? [])
    .filter((other) => isSomebodyElse(footage, other.footage))
    .map((other) => ({ ...other, footage: momentsOnly(other.footage) }));
  const shots = spans.flatMap(([from, until]): ObservedShot[] => {
    const observe = (whole: SolvedFootage, swapped?: readonly SwappedSides[]): SeenShot =>
      observeShot(spans.length > 1 ? sliceFootage(whole, from, until) : whole, options, swapped);
    const seen = observe(footage, shiftSwapped(options.marks?.swapped ?? [], -from));
    if (seenFrames(seen.observations) < Math.min(LEAST_FRAMES, footage.frames)) return [];
    const others = companions.map((other) => ({ height: other.height, ...observe(other.footage) }));
    return [{ from, until, seen, others, ground: groundOfShot(seen, others, options) }];
  });
  if (shots.length === 0) throw new SolveError('Nobody was seen in this take, so there is no motion to make.');
  return shots;
}

/** One body for all shots. */
function bodyOf(shots: readonly ObservedShot[], options: SolveOptions): MeasuredBody {
  const whole = joinFootage(shots.map(({ seen }) => seen.observations));
  const calibration = placeIn(shots, options.calibration);
  // Heights relative to each other show by the floor that all stand on.
  const shared = shots[0].ground?.shared ? shots[0].ground.heights[0] : undefined;
  const body = measureBody(whole, options.height ?? shared, calibration, metricScale(whole, shots[0].seen.focal));
  return options.height === undefined ? { ...body, heightEstimated: true } : body;
}

/** How far off the floor's slope may be in the shot that tells it worst. */
function floorDoubt(shots: readonly ObservedShot[], { tilt }: SolveOptions): number | null {
  if (tilt !== undefined) return 0;
  const doubts = shots.map(({ ground }) => ground?.pitchDoubt ?? null);
  return doubts.includes(null) ? null : Math.max(...(doubts as number[]));
}

/** How far the camera turned at most, and the share of frames in which that could not be told. */
function cameraMovement(shots: readonly ObservedShot[]): Pick<SolvedTake, 'turned' | 'untold'> {
  const frames = shots.reduce((sum, { from, until }) => sum + until - from, 0);
  return {
    turned: Math.max(...shots.map(({ seen }) => seen.turned)),
    untold: shots.reduce((sum, { from, until, seen }) => sum + seen.untold * (until - from), 0) / frames,
  };
}

function seenFrames(observations: SolvedFootage): number {
  let count = 0;
  for (let frame = 0; frame < observations.frames; frame++) if (isSeen(observations, frame)) count++;
  return count;
}

/** A frame of the take as one of the joined shots; undefined where no shot has it. */
function placeIn(shots: readonly { from: number; until: number }[], frame: number | undefined): number | undefined {
  if (frame === undefined) return undefined;
  let before = 0;
  for (const { from, until } of shots) {
    if (frame >= from && frame < until) return before + frame - from;
    before += until - from;
  }
  return undefined;
}

/** @throws SolveError when nobody is seen for long enough to be believed: single frames are no performer. */
function checkSomebody(footage: SolvedFootage): void {
  const needed = Math.min(SEEN_SECONDS * footage.rate, SEEN_SHARE * footage.frames);
  let [longest, run, missed, count] = [0, 0, 0, 0];
  for (let frame = 0; frame < footage.frames; frame++) {
    if (isSeen(footage, frame)) {
      run += 1 + missed;
      missed = 0;
      count++;
      longest = Math.max(longest, run);
    } else if (run > 0 && ++missed > MISSED) [run, missed] = [0, 0];
  }
  if (count === 0) throw new SolveError('Nobody was seen in this take, so there is no motion to make.');
  if (longest < needed)
    throw new SolveError(
      `Nobody was seen convincingly: only in ${count} of ${footage.frames} frames, and never for half a second at a time. Is the whole performer in the picture, near enough and in good light?`,
    );
}
