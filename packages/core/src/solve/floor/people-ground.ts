import { quat, vec3 } from 'gl-matrix';
import { averageProportions } from '../../motion/humanoid';
import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';
import { leftAxes } from '../../observe/left-axes';
import { MARK_OFFSETS } from '../body/joint-offsets';
import { leastSquares } from '../least-squares';
import { staysPut } from './standing';
import { uprightTurn } from './upright';

/** The floor under people, as the camera of their shot sees it. */
export interface PeopleGround {
  /** The way up in the camera's axes, unit vector. */
  up: vec3;
  /** How high the camera is above the floor, metres. */
  cameraHeight: number;
  /** How far off pitch may be (standard deviation), radians, and camera height (a share of it). */
  pitchDoubt: number;
  heightDoubt: number;
  /** Heights of the people, metres: as given, or as the floor tells them; undefined for who never stands upright. */
  heights: (number | undefined)[];
  /** The middle of where people stand first, camera axes, metres. */
  middle: vec3;
}

/** Somebody who is seen in a shot. */
export interface PersonOnGround {
  observations: BodyObservations;
  /** Crown to floor, metres, where it is known. */
  height?: number;
}

const AVERAGE = averageProportions(1);
/** Ankles and shoulders above the floor as the network marks them, in body heights. */
const ANKLES = AVERAGE.ankle + MARK_OFFSETS.Ankle[1];
const SHOULDERS = AVERAGE.ankle + AVERAGE.shin + AVERAGE.thigh + AVERAGE.hipDrop + AVERAGE.torso;
/** How far the shoulders stand ahead of the ankles in who stands and walks, in body heights (see `upright.ts`); people differ. */
const AHEAD = { mean: 0.025, sigma: 0.015 };

/** Straighter than this (shoulders to ankles against trunk and legs together) counts as upright; among these the straightest of this share. */
const STRAIGHT = 0.96;
const BEST_SHARE = 0.5;
const VISIBLE = 0.5;
/** Who stands or walks has one of these at its place, who jumps none. */
const FEET: readonly MarkName[] = ['leftAnkle', 'rightAnkle', 'leftFootIndex', 'rightFootIndex'];
/** How unsurely a line tells where its shoulders are: a part of its length, and pixels. */
const LINE_SIGMA = 0.03;
const LINE_PIXELS = 1.5;
/** Lines within so many seconds tell the same once. */
const ONCE = 0.4;
/** What is believed beforehand: pitch by the bodies' own uprightness, a level camera, people's heights and camera heights (logarithms). */
const PITCH_SIGMA = 0.08;
const ROLL_SIGMA = 0.03;
const TALL = { height: 1.7, sigma: 0.07 };
const CAMERA = { height: 1.4, sigma: 0.7 };

/** A body that stands upright, from its ankles to its shoulders in the picture, pixels from the middle with y upwards. */
interface Line {
  person: number;
  ankles: [number, number];
  shoulders: [number, number];
  /** Where the body faces, in the camera's axes. */
  facing: vec3;
  frame: number;
  weight: number;
}

/**
 * Tells floor and pitch of the camera from people who stand and walk: upright lines from ankles to shoulders of bodies of the same height at
 * several places (F. Lv, T. Zhao and R. Nevatia, "Self-calibration of a camera from video of a walking human", 2002), by robust
 * least squares with what is believed beforehand.
 * @param focal pixels.
 * @returns null when nobody stands upright in it.
 */
export function peopleGround(people: readonly PersonOnGround[], focal: number): PeopleGround | null {
  const lines = people.flatMap(({ observations }, person) => uprightLines(observations, person));
  if (lines.length === 0) return null;
  const pitches = people.map(({ observations }) => {
    const turn = uprightTurn(observations, observations.world);
    const up = vec3.transformQuat([0, 0, 0], [0, 1, 0], quat.conjugate([0, 0, 0, 1], turn));
    return Math.atan2(up[2], up[1]);
  });
  const pitch = pitches.reduce((sum, value) => sum + value, 0) / pitches.length;
  // Unknowns: pitch, roll, logarithms of the camera's height and of heights that nobody gave, and how far each leans ahead.
  const free = people.flatMap(({ height }, i) => (height === undefined ? [i] : []));
  const leans = 3 + free.length;
  const priors = [
    { mean: pitch, sigma: PITCH_SIGMA },
    { mean: 0, sigma: ROLL_SIGMA },
    { mean: Math.log(CAMERA.height), sigma: CAMERA.sigma },
    ...free.map(() => ({ mean: Math.log(TALL.height), sigma: TALL.sigma })),
    ...people.map(() => AHEAD),
  ];
  const heightOf = (p: readonly number[], person: number): number =>
    people[person].height ?? Math.exp(p[3 + free.indexOf(person)]);
  const start = priors.map(({ mean }) => mean);
  start[2] = Math.log(startingHeight(lines, pitch, focal, (person) => heightOf(start, person)));
  const residuals = (p: readonly number[]): number[] =>
    lines.flatMap((line) => {
      const tall = heightOf(p, line.person);
      const seen = shouldersOver(line, upOf(p), Math.exp(p[2]), focal, tall, p[leans + line.person] * tall);
      const length = Math.hypot(line.shoulders[0] - line.ankles[0], line.shoulders[1] - line.ankles[1]);
      const sigma = LINE_SIGMA * length + LINE_PIXELS;
      // Ankles that this camera would see above the horizon speak against it as strongly as a line can.
      if (!seen) return [length / sigma, length / sigma];
      return [0, 1].map((k) => (seen[k] - line.shoulders[k]) / sigma);
    });
  const weights = lines.flatMap(({ weight }) => [weight, weight]);
  const { values, deviations } = leastSquares(residuals, weights, start, priors);
  return {
    up: upOf(values),
    cameraHeight: Math.exp(values[2]),
    pitchDoubt: deviations[0],
    heightDoubt: deviations[2],
    heights: people.map(({ height }, person) =>
      height !== undefined || lines.some((line) => line.person === person) ? heightOf(values, person) : undefined,
    ),
    middle: middleOf(lines, values, focal, (person) => heightOf(values, person)),
  };
}

const upOf = ([pitch, roll]: readonly number[]): vec3 => [
  Math.sin(roll),
  Math.cos(roll) * Math.cos(pitch),
  Math.cos(roll) * Math.sin(pitch),
];

/** The camera's height by which the lines are as long as bodies of these heights: their median. */
function startingHeight(
  lines: readonly Line[],
  pitch: number,
  focal: number,
  heightOf: (person: number) => number,
): number {
  const heights = lines
    .map(({ person, ankles, shoulders }) => {
      const height = heightOf(person);
      const length = Math.hypot(shoulders[0] - ankles[0], shoulders[1] - ankles[1]);
      const depth = (focal * (SHOULDERS - ANKLES) * height * Math.cos(pitch)) / Math.max(1, length);
      const below = (-ankles[1] / focal) * Math.cos(pitch) + Math.sin(pitch);
      return Math.max(0.1, below * depth + ANKLES * height);
    })
    .sort((a, b) => a - b);
  return heights[Math.floor(heights.length / 2)];
}

/** Where the ankles of a line are, camera axes, metres; null where no floor is. */
function anklesOf({ ankles }: Line, up: vec3, cameraHeight: number, focal: number, height: number): vec3 | null {
  const ray: vec3 = [ankles[0] / focal, ankles[1] / focal, -1];
  const falls = -vec3.dot(ray, up);
  return falls < 1e-3 ? null : vec3.scale(ray, ray, (cameraHeight - ANKLES * height) / falls);
}

/** The middle of the places at which people are seen to stand first. */
function middleOf(
  lines: readonly Line[],
  values: readonly number[],
  focal: number,
  heightOf: (person: number) => number,
): vec3 {
  const first = [...new Set(lines.map(({ person }) => person))].flatMap((person) => {
    const line = lines.filter((other) => other.person === person).reduce((a, b) => (b.frame < a.frame ? b : a));
    const place = anklesOf(line, upOf(values), Math.exp(values[2]), focal, heightOf(person));
    return place ? [place] : [];
  });
  const sum = first.reduce<vec3>((total, place) => vec3.add(total, total, place), [0, 0, 0]);
  return vec3.scale(sum, sum, 1 / Math.max(1, first.length));
}

/** Where a camera over a floor sees the shoulders of who stands at a line's ankles; null where no floor is. */
function shouldersOver(
  line: Line,
  up: vec3,
  cameraHeight: number,
  focal: number,
  height: number,
  ahead: number,
): [number, number] | null {
  const feet = anklesOf(line, up, cameraHeight, focal, height);
  if (!feet) return null;
  const level = vec3.scaleAndAdd([0, 0, 0], line.facing, up, -vec3.dot(line.facing, up));
  const top = vec3.scaleAndAdd([0, 0, 0], feet, up, (SHOULDERS - ANKLES) * height);
  vec3.scaleAndAdd(top, top, vec3.normalize(level, level), ahead);
  if (top[2] > -0.1) return null;
  return [(focal * top[0]) / -top[2], (focal * top[1]) / -top[2]];
}

/** The straightest frames of somebody as lines in the picture. */
function uprightLines(observations: BodyObservations, person: number): Line[] {
  const { frames, rate, marks, world, width, height } = observations;
  const left = leftAxes(observations);
  const found: (Line & { straight: number })[] = [];
  for (let frame = 0; frame < frames; frame++) {
    if (!isSeen(observations, frame)) continue;
    const at = (mark: MarkName): number => (frame * MARK_COUNT + MARK[mark]) * 3;
    const pairs = (['Ankle', 'Knee', 'Hip', 'Shoulder'] as const).map((part) => [
      at(`left${part}`),
      at(`right${part}`),
    ]);
    if ([...pairs[0], ...pairs[3]].some((i) => marks[i + 2] < VISIBLE)) continue;
    const [ankles, knees, hips, shoulders] = pairs.map(
      ([a, b]) => [0, 1, 2].map((k) => (world[a + k] + world[b + k]) / 2) as vec3,
    );
    const whole = vec3.distance(ankles, knees) + vec3.distance(knees, hips) + vec3.distance(hips, shoulders);
    const straight = vec3.distance(ankles, shoulders) / whole;
    if (straight < STRAIGHT) continue;
    const up = vec3.subtract([0, 0, 0], shoulders, ankles);
    if (!FEET.some((mark) => staysPut(observations, mark, frame))) continue;
    const inPicture = ([a, b]: number[]): [number, number] => [
      (marks[a] + marks[b]) / 2 - width / 2,
      height / 2 - (marks[a + 1] + marks[b + 1]) / 2,
    ];
    const facing = vec3.cross([0, 0, 0], [left[frame * 3], left[frame * 3 + 1], left[frame * 3 + 2]], up);
    found.push({
      person,
      ankles: inPicture(pairs[0]),
      shoulders: inPicture(pairs[3]),
      facing: vec3.normalize(facing, facing),
      weight: 1,
      straight,
      frame,
    });
  }
  found.sort((a, b) => b.straight - a.straight);
  const best = found.slice(0, Math.ceil(found.length * BEST_SHARE));
  const span = Math.max(1, ONCE * rate);
  const crowd = new Map<number, number>();
  const moment = (frame: number): number => Math.floor(frame / span);
  for (const { frame } of best) crowd.set(moment(frame), (crowd.get(moment(frame)) ?? 0) + 1);
  return best.map((line) => ({ ...line, weight: 1 / (crowd.get(moment(line.frame)) ?? 1) }));
}
