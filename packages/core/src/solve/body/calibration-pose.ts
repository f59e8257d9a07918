import { isSeen, MARK, MARK_COUNT, type BodyObservations, type MarkName } from '../../observe/body';

/** A span in which the performer holds a pose that shows the body's proportions. */
export interface CalibrationPose {
  kind: 'T' | 'A';
  /** Frames from … until − 1. */
  from: number;
  until: number;
  /** How square to the camera it is held: the shoulders' width in the picture's plane against their whole width, 0.35 … 1. */
  square: number;
}

/** What an arm of each pose makes with the line down the trunk, degrees. */
const ARMS: Record<CalibrationPose['kind'], readonly [number, number]> = { T: [72, 108], A: [22, 65] };
/** How straight limbs are: distance of the ends against the bones' lengths together. */
const STRAIGHT_ARM = 0.95;
const STRAIGHT_LEG = 0.95;
/** Arms reach to the sides: how much of an arm's level part may point to the front or back, as the network sees it. */
const FORWARD = 0.72;
/** The body may be turned by up to 70°, or show its back: shoulders' width in the picture's plane against their whole width. */
const SQUARE_ON = 0.35;
/** Hands that move faster don't hold a pose, m/s. */
const STILL = 0.35;
/** Shortest hold, and the longest moment within it that may look otherwise, seconds. */
const LEAST = 0.3;
/** Hands of two looks that are farther apart moved, metres. */
const NEAR = 0.15;
const BLINK = 0.1;

type Vector = [number, number, number];

/**
 * Finds the T- or A-pose that a take begins with or holds anywhere: arms straight out to the sides or slanting down,
 * legs straight, hands still for a moment; the body may be turned. Of several the longest counts, T-poses double, and
 * the squarer to the camera, the more.
 * @returns null when there is none.
 */
export function findCalibrationPose(observations: BodyObservations): CalibrationPose | null {
  let best: CalibrationPose | null = null;
  const worth = ({ kind, from, until, square }: CalibrationPose): number =>
    (until - from) * (kind === 'T' ? 2 : 1) * square;
  for (const kind of ['T', 'A'] as const) {
    const held = Uint8Array.from({ length: observations.frames }, (_, f) => (holdsPose(observations, f, kind) ? 1 : 0));
    for (const [from, until] of runsOf(held, BLINK * observations.rate)) {
      const pose = { kind, from, until, square: meanSquareness(observations, held, from, until) };
      if (until - from >= LEAST * observations.rate && (!best || worth(pose) > worth(best))) best = pose;
    }
  }
  return best;
}

/**
 * Which pose is held at each of a few looks a second; null for none. Of frames so far apart two in a row must show the same pose, with the
 * hands at nearly the same place.
 */
export function posesHeld(looks: BodyObservations): (CalibrationPose['kind'] | null)[] {
  const holds = (['T', 'A'] as const).map((kind) =>
    Array.from({ length: looks.frames }, (_, f) => showsPose(looks, f, kind)),
  );
  const near = (a: number, b: number): boolean =>
    (['leftWrist', 'rightWrist'] as const).every(
      (name) => length(between(place(looks, a, name), place(looks, b, name))) < NEAR,
    );
  return Array.from({ length: looks.frames }, (_, f) => {
    const kind = (['T', 'A'] as const).find((_, k) =>
      [f - 1, f + 1].some((other) => holds[k][f] && holds[k][other] && near(f, other)),
    );
    return kind ?? null;
  });
}

function place({ world }: BodyObservations, frame: number, name: MarkName): Vector {
  const i = (frame * MARK_COUNT + MARK[name]) * 3;
  return [world[i], world[i + 1], world[i + 2]];
}

function holdsPose(observations: BodyObservations, frame: number, kind: CalibrationPose['kind']): boolean {
  if (!showsPose(observations, frame, kind)) return false;
  const [before, after] = [Math.max(0, frame - 2), Math.min(observations.frames - 1, frame + 2)];
  if (!isSeen(observations, before) || !isSeen(observations, after)) return true;
  return (['leftWrist', 'rightWrist'] as const).every((name) => {
    const way = length(between(place(observations, before, name), place(observations, after, name)));
    return (way * observations.rate) / Math.max(1, after - before) < STILL;
  });
}

/** Whether a frame looks like the pose, moving or not. */
function showsPose(observations: BodyObservations, frame: number, kind: CalibrationPose['kind']): boolean {
  if (!isSeen(observations, frame)) return false;
  const at = (name: MarkName): Vector => place(observations, frame, name);
  const shoulders = between(at('rightShoulder'), at('leftShoulder'));
  if (squareness(shoulders) < SQUARE_ON) return false;
  const down = between(at('leftShoulder'), at('leftHip')).map(
    (value, k) => value + between(at('rightShoulder'), at('rightHip'))[k],
  ) as Vector;
  const front = cross(shoulders, down);
  return (['left', 'right'] as const).every((side) => {
    const [shoulder, elbow, wrist] = (['Shoulder', 'Elbow', 'Wrist'] as const).map((part) => at(`${side}${part}`));
    const [hip, knee, ankle] = (['Hip', 'Knee', 'Ankle'] as const).map((part) => at(`${side}${part}`));
    if (straightness(shoulder, elbow, wrist) < STRAIGHT_ARM || straightness(hip, knee, ankle) < STRAIGHT_LEG)
      return false;
    const arm = between(shoulder, wrist);
    const raised = (Math.acos(cosine(arm, down)) * 180) / Math.PI;
    const outward = dot(arm, shoulders) * (side === 'left' ? 1 : -1);
    if (raised < ARMS[kind][0] || raised > ARMS[kind][1] || outward <= 0) return false;
    return Math.abs(cosine(arm, front)) <= FORWARD * Math.sin((raised * Math.PI) / 180);
  });
}

const squareness = (shoulders: Vector): number => Math.hypot(shoulders[0], shoulders[1]) / (length(shoulders) || 1);

function meanSquareness(seen: BodyObservations, held: ArrayLike<number>, from: number, until: number): number {
  let [sum, count] = [0, 0];
  for (let frame = from; frame < until; frame++) {
    if (!held[frame]) continue;
    sum += squareness(between(place(seen, frame, 'rightShoulder'), place(seen, frame, 'leftShoulder')));
    count++;
  }
  return sum / Math.max(1, count);
}

/** Runs of ones; gaps up to a length don't end a run. */
function runsOf(flags: Uint8Array, gap: number): [from: number, until: number][] {
  const runs: [number, number][] = [];
  flags.forEach((flag, frame) => {
    if (!flag) return;
    const last = runs.at(-1);
    if (last && frame - last[1] <= gap) last[1] = frame + 1;
    else runs.push([frame, frame + 1]);
  });
  return runs;
}

const between = (a: Vector, b: Vector): Vector => [b[0] - a[0], b[1] - a[1], b[2] - a[2]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const length = (a: Vector): number => Math.hypot(a[0], a[1], a[2]);
const cosine = (a: Vector, b: Vector): number => Math.max(-1, Math.min(1, dot(a, b) / (length(a) * length(b) || 1)));
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const straightness = (a: Vector, b: Vector, c: Vector): number =>
  length(between(a, c)) / (length(between(a, b)) + length(between(b, c)) || 1);
