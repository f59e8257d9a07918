import type { Moves, Step } from './script';
import { interpolateKeys, smoothSamples } from './keys';

/**
 * Where the feet are. Between steps a foot is planted and truly still; at the end of a plant it
 * may roll over its ball, and after a step it may come down on its heel first.
 */
export interface FootShape {
  /** Ankle above the sole, metres. */
  ankle: number;
  /** Ankle to the ball of the foot, forwards, and the ball's height above the sole: the foot rolls about this joint. */
  ball: number;
  ballHeight: number;
  /** Ankle to the back of the heel. */
  heel: number;
}

export interface FootTrack {
  /** frames × 3: the ankle, metres. */
  ankle: Float64Array;
  /** Direction of the toes about +Y, radians. */
  yaw: Float64Array;
  /** Heel up positive, radians. */
  pitch: Float64Array;
  /** Bend of the toes that keeps them flat, radians. */
  toeBend: Float64Array;
  heelContact: Uint8Array;
  toeContact: Uint8Array;
}

const RAD = Math.PI / 180;
const OFF_PITCH = 32 * RAD;
const LAND_PITCH = -16 * RAD;
/** A foot tipped by less lies flat: heel and toe both rest to half a millimetre. */
const FLAT = 0.002;
const PUSH_SECONDS = 0.16;
const LAND_SECONDS = 0.1;

/** Turns walks into single steps; keeps the given steps. Sorted by time. */
export function planSteps(moves: Moves): Step[] {
  const steps: Step[] = moves.steps.map((step) => ({ ...step }));
  let place = moves.place;
  let facing = moves.facing;
  for (const walk of [...moves.walks].sort((a, b) => a.at - b.at)) {
    const dx = walk.to[0] - place[0];
    const dz = walk.to[1] - place[1];
    const distance = Math.hypot(dx, dz);
    if (distance < 1e-6) continue;
    const heading = Math.atan2(dx, dz) / RAD;
    const count = Math.max(1, Math.round(distance / walk.stepLength));
    let side = walk.first;
    const side3 = (foot: 'left' | 'right', angle: number): [number, number] => {
      const s = (foot === 'left' ? 1 : -1) * moves.stance * 0.8;
      return [Math.cos(angle * RAD) * s, -Math.sin(angle * RAD) * s];
    };
    for (let i = 1; i <= count + 1; i++) {
      const part = Math.min(i, count) / count;
      const finish = walk.endFacing ?? heading;
      const angle = i >= count ? finish : heading;
      const [ox, oz] = side3(side, angle);
      steps.push({
        foot: side,
        at: walk.at + (i - 1) * walk.stepSeconds,
        seconds: walk.stepSeconds * 0.78,
        to: [place[0] + dx * part + ox, place[1] + dz * part + oz],
        facing: facing + shortestTurn(facing, angle),
        lift: 0.07,
        roll: true,
      });
      side = side === 'left' ? 'right' : 'left';
    }
    place = walk.to;
    facing = facing + shortestTurn(facing, walk.endFacing ?? heading);
  }
  return steps.sort((a, b) => a.at - b.at);
}

function shortestTurn(from: number, to: number): number {
  return ((((to - from) % 360) + 540) % 360) - 180;
}

/** The height of both feet in jumps: 0 on the floor, a throw's parabola in the air. */
export function jumpHeight(moves: Moves, t: number): number {
  for (const jump of moves.jumps) {
    const s = (t - jump.at) / jump.seconds;
    if (s > 0 && s < 1) return 4 * jump.height * s * (1 - s);
  }
  return 0;
}

/** How far jumps have carried the feet by a moment: x, z. */
function jumpShift(moves: Moves, t: number): [number, number] {
  let x = 0;
  let z = 0;
  for (const jump of moves.jumps) {
    const s = Math.min(1, Math.max(0, (t - jump.at) / jump.seconds));
    x += jump.by[0] * s;
    z += jump.by[1] * s;
  }
  return [x, z];
}

type Point = [number, number, number];

/** The ankle of a planted foot that is tipped over its ball (pitch > 0, the toes stay flat) or its heel (pitch < 0). */
function tippedAnkle(shape: FootShape, place: readonly [number, number], yaw: number, pitch: number): Point {
  const [pivot, height] = pitch >= 0 ? [shape.ball, shape.ballHeight] : [-shape.heel, 0];
  const rise = shape.ankle - height;
  const y = height + rise * Math.cos(pitch) + pivot * Math.sin(pitch);
  const forward = pivot - pivot * Math.cos(pitch) + rise * Math.sin(pitch);
  return [place[0] + Math.sin(yaw) * forward, y, place[1] + Math.cos(yaw) * forward];
}

function quinticBlend(a: number, va: number, b: number, vb: number, s: number): number {
  const d = b - a;
  const s3 = s ** 3;
  return (
    a +
    va * s +
    (10 * d - 6 * va - 4 * vb) * s3 +
    (-15 * d + 8 * va + 7 * vb) * s3 * s +
    (6 * d - 3 * va - 3 * vb) * s3 * s * s
  );
}

/** Samples one foot for every frame. */
export function footTrack(
  moves: Moves,
  steps: readonly Step[],
  foot: 'left' | 'right',
  shape: FootShape,
  frames: number,
  rate: number,
): FootTrack {
  const own = steps.filter((step) => step.foot === foot);
  const startYaw = moves.facing * RAD;
  const s = foot === 'left' ? 1 : -1;
  const first: [number, number] = [
    moves.place[0] + Math.cos(startYaw) * s * moves.stance,
    moves.place[1] - Math.sin(startYaw) * s * moves.stance,
  ];
  const toe = s * 6 * RAD;
  const places = [first, ...own.map((step) => step.to as [number, number])];
  const yaws = [startYaw + toe, ...own.map((step) => step.facing * RAD + toe)];

  const pitchTimes: number[] = [];
  const pitchValues: number[] = [];
  const key = (time: number, value: number): void => {
    if (pitchTimes.length && time <= pitchTimes[pitchTimes.length - 1] + 1e-4) return;
    pitchTimes.push(time);
    pitchValues.push(value);
  };
  for (const step of own) {
    const off = step.roll ? OFF_PITCH : 0.15;
    const land = step.roll ? LAND_PITCH : 0;
    key(step.at - PUSH_SECONDS, 0);
    key(step.at, off);
    key(step.at + step.seconds, land);
    key(step.at + step.seconds + LAND_SECONDS, 0);
  }
  const pitchAt = (t: number): number => interpolateKeys(pitchTimes, pitchValues, t);

  const track: FootTrack = {
    ankle: new Float64Array(frames * 3),
    yaw: new Float64Array(frames),
    pitch: new Float64Array(frames),
    toeBend: new Float64Array(frames),
    heelContact: new Uint8Array(frames),
    toeContact: new Uint8Array(frames),
  };
  for (let frame = 0; frame < frames; frame++) {
    const t = frame / rate;
    let done = 0;
    while (done < own.length && t >= own[done].at + own[done].seconds) done++;
    const step = done < own.length && t > own[done].at ? own[done] : null;
    const pitch = pitchAt(t);
    const air = jumpHeight(moves, t);
    const shift = jumpShift(moves, t);
    let ankle: Point;
    let yaw = yaws[done];
    if (step) {
      const u = (t - step.at) / step.seconds;
      const dt = 1e-3;
      const from = (time: number): Point => tippedAnkle(shape, places[done], yaws[done], pitchAt(time));
      const onto = (time: number): Point => tippedAnkle(shape, places[done + 1], yaws[done + 1], pitchAt(time));
      const land = step.at + step.seconds;
      const [a0, a1] = [from(step.at - dt), from(step.at)];
      const [b0, b1] = [onto(land), onto(land + dt)];
      const bump = step.lift * 16 * (u * (1 - u)) ** 2;
      ankle = [0, 1, 2].map(
        (i) =>
          quinticBlend(a1[i], ((a1[i] - a0[i]) / dt) * step.seconds, b0[i], ((b1[i] - b0[i]) / dt) * step.seconds, u) +
          (i === 1 ? bump : 0),
      ) as Point;
      const ease = u * u * u * (10 - 15 * u + 6 * u * u);
      yaw = yaws[done] + (yaws[done + 1] - yaws[done]) * ease;
    } else {
      ankle = tippedAnkle(shape, places[done], yaw, pitch);
      track.heelContact[frame] = air === 0 && pitch <= FLAT ? 1 : 0;
      track.toeContact[frame] = air === 0 && pitch >= -FLAT ? 1 : 0;
    }
    track.ankle.set([ankle[0] + shift[0], ankle[1] + air, ankle[2] + shift[1]], frame * 3);
    track.yaw[frame] = yaw;
    track.pitch[frame] = pitch + (air > 0 ? Math.min(0.5, air * 5) : 0);
    track.toeBend[frame] = step ? Math.max(0, pitch) * 0.3 : Math.max(0, pitch);
  }
  track.toeBend = smoothToes(track, rate);
  return track;
}

/** In the air the toes come back without a jerk; on the floor they stay exactly flat. */
function smoothToes(track: FootTrack, rate: number): Float64Array {
  const soft = smoothSamples(track.toeBend, 0.03 * rate);
  return track.toeBend.map((value, f) => (track.toeContact[f] ? value : soft[f]));
}
