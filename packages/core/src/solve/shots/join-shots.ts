import { quat, vec3 } from 'gl-matrix';
import '../../motion/double-precision';
import type { PinholeCamera } from '../../camera/pinhole';
import {
  alignSigns,
  emptyPose,
  poseAt,
  readRotation,
  restMotion,
  writeRotation,
  type Motion,
} from '../../motion/motion';
import type { ShotSolution, SolvedTake } from '../solved';

/** A shot that was solved by itself, in a world of its own. */
export interface PlacedShot extends ShotSolution {
  /** Frames of the take. */
  from: number;
  until: number;
}

/** Seconds before a cut from which each joint's speed is told. */
const SPEED_SECONDS = 0.2;

/**
 * Joins shots in one world: each goes on where the performer stood and faced when the one before ended, as fast as
 * they moved. Within a shot nothing is changed but where it stands and how it is turned about +Y. Frames of no shot
 * hold the pose before them, and are marked as bridged.
 * @param shots in order, at least one.
 */
export function joinShots(
  shots: readonly PlacedShot[],
  frames: number,
): Pick<SolvedTake, 'motion' | 'camera' | 'shots' | 'bridged' | 'contacts'> {
  const [first] = shots;
  if (shots.length === 1 && first.motion.frames === frames) {
    const { motion, camera, bridged, contacts } = first;
    return { motion, camera, bridged, contacts, shots: [{ from: 0, until: frames, camera }] };
  }
  const { skeleton, rate } = first.motion;
  const motion = restMotion(skeleton, frames, rate);
  const bridged = new Uint8Array(frames).fill(1);
  const contacts: Record<string, Float64Array> = {};
  const cameras: SolvedTake['shots'] = [];
  let end = -1;
  for (const shot of shots) {
    const { from, until } = shot;
    const place = end < 0 ? null : goingOn(motion, end, from, shot.motion);
    copyShot(shot.motion, motion, from, place);
    bridged.set(shot.bridged, from);
    for (const [name, weights] of Object.entries(shot.contacts ?? {}))
      (contacts[name] ??= new Float64Array(frames)).set(weights, from);
    cameras.push({ from, until, camera: place ? moved(shot.camera, place) : shot.camera });
    end = until - 1;
  }
  holdGaps(motion, shots);
  alignSigns(motion);
  return {
    motion,
    bridged,
    shots: cameras,
    camera: cameras[0].camera,
    contacts: shots.some((shot) => shot.contacts) ? (contacts as SolvedTake['contacts']) : null,
  };
}

/** How a shot is brought into the world: a turn about +Y, then a shift over the floor. */
interface Place {
  turn: quat;
  shift: vec3;
}

/**
 * Where a shot must stand to go on from another one: its first pose is laid over the one that the last pose before it
 * would have come to by then, by the turn about +Y and the shift over the floor that bring all joints nearest
 * (least squares; B. K. P. Horn, 1987, about one axis).
 * @param end the last frame before it. @param begin its first frame, of the take.
 */
function goingOn(motion: Motion, end: number, begin: number, shot: Motion): Place {
  const back = Math.min(end, Math.max(1, Math.round(SPEED_SECONDS * motion.rate)));
  const later = back > 0 ? (begin - end) / back : 0;
  const [now, before] = [end, end - back].map((frame) => poseAt(motion, frame, emptyPose(motion.skeleton)).positions);
  const wanted = now.map((value, i) => value + (value - before[i]) * later);
  const own = poseAt(shot, 0, emptyPose(shot.skeleton)).positions;
  const [to, from] = [middle(wanted), middle(own)];
  let [along, across] = [0, 0];
  for (let i = 0; i < own.length; i += 3) {
    const [ax, az] = [own[i] - from[0], own[i + 2] - from[2]];
    const [bx, bz] = [wanted[i] - to[0], wanted[i + 2] - to[2]];
    along += ax * bx + az * bz;
    across += az * bx - ax * bz;
  }
  const turn = quat.setAxisAngle([0, 0, 0, 1], [0, 1, 0], Math.atan2(across, along));
  const moved = vec3.transformQuat([0, 0, 0], from, turn);
  return { turn, shift: [to[0] - moved[0], 0, to[2] - moved[2]] };
}

function middle(points: Float64Array): vec3 {
  const mean: vec3 = [0, 0, 0];
  for (let i = 0; i < points.length; i++) mean[i % 3] += (points[i] * 3) / points.length;
  return mean;
}

function copyShot(shot: Motion, into: Motion, from: number, place: Place | null): void {
  const value: quat = [0, 0, 0, 1];
  for (let joint = 0; joint < shot.skeleton.joints.length; joint++)
    for (let frame = 0; frame < shot.frames; frame++) {
      readRotation(shot, joint, frame, value);
      if (place && joint === 0) quat.multiply(value, place.turn, value);
      writeRotation(into, joint, from + frame, value);
    }
  for (let frame = 0; frame < shot.frames; frame++) {
    const at: vec3 = [shot.root[frame * 3], shot.root[frame * 3 + 1], shot.root[frame * 3 + 2]];
    if (place) vec3.add(at, vec3.transformQuat(at, at, place.turn), place.shift);
    into.root.set(at, (from + frame) * 3);
  }
}

function moved(camera: PinholeCamera, { turn, shift }: Place): PinholeCamera {
  const [x, y, z] = vec3.add([0, 0, 0], vec3.transformQuat([0, 0, 0], [...camera.position] as vec3, turn), shift);
  const axes = [0, 1, 2].flatMap((row) => {
    const axis = camera.axes.slice(row * 3, row * 3 + 3) as unknown as vec3;
    return [...vec3.transformQuat([0, 0, 0], axis, turn)];
  });
  return { ...camera, position: [x, y, z], axes };
}

/** Fills frames of no shot with the pose before them, at the start with the first one. */
function holdGaps(motion: Motion, shots: readonly PlacedShot[]): void {
  const value: quat = [0, 0, 0, 1];
  const solved = (frame: number): boolean => shots.some(({ from, until }) => frame >= from && frame < until);
  let source = shots[0].from;
  for (let frame = 0; frame < motion.frames; frame++) {
    if (solved(frame)) {
      source = frame;
      continue;
    }
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++)
      writeRotation(motion, joint, frame, readRotation(motion, joint, source, value));
    motion.root.set(motion.root.subarray(source * 3, source * 3 + 3), frame * 3);
  }
}
