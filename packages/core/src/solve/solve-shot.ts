import { quat, vec3 } from 'gl-matrix';
import { DEFAULT_FIELD_OF_VIEW, focalFromFieldOfView, type PinholeCamera } from '../camera/pinhole';
import { solePoints, soleTrack, type SolePoint } from '../ground/floor';
import { handRests } from '../ground/hand-rests';
import type { Resting } from '../ground/plants';
import { settleOnFloor } from '../ground/settle';
import { humanoidSkeleton } from '../motion/humanoid';
import { alignSigns, emptyPose, poseAt, readRotation, restMotion, writeRotation, type Motion } from '../motion/motion';
import { jointIndex } from '../motion/skeleton';
import { isSeen, MARK_COUNT, type BodyObservations, type MarkName } from '../observe/body';
import type { SolvedFootage } from '../observe/slice-footage';
import { cameraTurns, untoldShare, widestTurn, withSteadyView } from '../observe/steady-view';
import { withLegsApart } from '../observe/untangle-legs';
import { gaussianColumns } from '../passes/gaussian';
import { NO_CONTEXT } from '../passes/pass';
import { smooth } from '../passes/smooth';
import { easeMotion } from './ease';
import { withFeetAhead } from './feet-ahead';
import { agilities } from './fit/agility';
import { findContacts } from './fit/contacts';
import { pictureRun } from './fit/sole-picture';
import { levelFloor } from './fit/floor-plane';
import { fitTake } from './fit/fit-take';
import { FIT_WEIGHTS } from './fit/evidence';
import { prepareHinges, restoreLimbs } from './fit/hinges';
import { keepOnSpot, seat, withoutLegs } from './manner';
import { MARK_OFFSETS } from './joint-offsets';
import { withoutLean } from './network-lean';
import { PoseFromPoints } from './pose-from-points';
import type { MeasuredBody } from './proportions';
import { SolveError, type SolvedTake, type SolveOptions } from './solved';
import { closerLook } from './closer-look';
import { placeBody, PLACING } from './root-path';
import { uprightTurn } from './upright';

/** What was seen in a shot, as a camera would have seen it that stands still. */
export interface SeenShot {
  /** With hands and face. */
  steady: SolvedFootage;
  /** The body, with legs and feet told apart. */
  observations: SolvedFootage;
  focal: number;
  /** See `SolvedTake`. */
  turned: number;
  untold: number;
}

/** First stage: takes out what the camera moved, and what the network is known to confuse. */
export function observeShot(footage: SolvedFootage, options: SolveOptions): SeenShot {
  const focal = focalFromFieldOfView(options.fieldOfView ?? DEFAULT_FIELD_OF_VIEW, footage.width, footage.height);
  const turns = options.steady === false ? null : cameraTurns(footage, focal);
  const steady = withSteadyView(footage, turns, focal);
  const observations = options.manner === 'seated' ? withoutLegs(steady) : withFeetAhead(withLegsApart(steady));
  return { steady, observations, focal, turned: widestTurn(turns), untold: untoldShare(footage) };
}

/** What one shot is solved to; the rest of a solved take is joined from all shots. */
export type ShotSolution = Pick<SolvedTake, 'motion' | 'camera' | 'bridged' | 'contacts'>;

/**
 * Turns what was seen in a shot into a motion of a body of given proportions, +Y up and the floor at y = 0. The hips
 * start over the origin.
 * @throws SolveError when nobody was seen.
 */
export function solveShot(
  { steady, observations, focal }: SeenShot,
  body: MeasuredBody,
  options: SolveOptions,
): ShotSolution {
  const seated = options.manner === 'seated';
  const { frames, rate, width, height } = observations;
  const seen = Array.from({ length: frames }, (_, frame) => frame).filter((frame) => isSeen(observations, frame));
  if (seen.length === 0) throw new SolveError('Nobody was seen in this take, so there is no motion to make.');
  const skeleton = humanoidSkeleton(body.proportions);
  const motion = restMotion(skeleton, frames, rate);
  const poser = new PoseFromPoints(skeleton);
  const pose = emptyPose(skeleton);
  const placing = PLACING.map(([, joint]) => jointIndex(skeleton, joint));
  const placed = new Uint8Array(frames);
  for (const frame of seen) {
    poser
      .solve(observations.world, frame * MARK_COUNT * 3, closerLook(steady, frame))
      .forEach((turn, joint) => writeRotation(motion, joint, frame, turn));
    motion.root.fill(0, frame * 3, frame * 3 + 3);
    poseAt(motion, frame, pose);
    const place = placeBody(
      observations,
      frame,
      networkPoints(pose.positions, placing, body.proportions.height),
      focal,
    );
    if (!place) continue;
    motion.root.set(place, frame * 3);
    placed[frame] = 1;
  }
  if (!placed.includes(1)) throw new SolveError('The body was never seen well enough to place it in the room.');
  const bridged = bridgeGaps(motion, placed);
  // Depth is the weak axis: it gets the strongest smoothing.
  const path = gaussianColumns(motion.root, 3, 0.05 * rate);
  const depth = gaussianColumns(motion.root, 3, 0.15 * rate);
  for (let frame = 0; frame < frames; frame++)
    motion.root.set([path[frame * 3], path[frame * 3 + 1], depth[frame * 3 + 2]], frame * 3);

  const up =
    options.tilt === undefined
      ? uprightTurn(observations, observations.world)
      : quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], (-options.tilt * Math.PI) / 180);
  const camera = toWorld(motion, up, focal, width, height);
  alignSigns(motion);
  const calm =
    options.smooth === false ? motion : smooth.apply(motion, smooth.options.parse({ gestures: false }), NO_CONTEXT);
  if (options.fit === false) {
    const settled = settleOnFloor(calm);
    let lift = 0;
    for (let frame = 0; frame < frames; frame++)
      lift += (settled.root[frame * 3 + 1] - calm.root[frame * 3 + 1]) / frames;
    return {
      motion: settled,
      bridged,
      contacts: null,
      camera: { ...camera, position: [camera.position[0], camera.position[1] + lift, camera.position[2]] },
    };
  }
  const fitted = fitWhole(
    calm,
    camera,
    withoutLean(observations),
    body,
    seated ? { ...options, contacts: false } : options,
  );
  if (seated) {
    const motion = seat(fitted.motion);
    const lift = motion.root[1] - fitted.motion.root[1];
    const [x, y, z] = fitted.camera.position;
    return { motion, camera: { ...fitted.camera, position: [x, y + lift, z] }, contacts: null, bridged };
  }
  if (options.manner === 'spot') keepOnSpot(fitted.motion);
  return { ...fitted, bridged };
}

/** The first round of the fit, which knows no floor: a start for the others. */
const START = { steps: 3, slack: 3, damping: 2 } as const;

/**
 * Rounds of the fit with floor and contacts. In the first the floor is not known well, so heights count
 * generously, and so do a depth camera's depths; in the last each unknown is held more, which settles what would swing between two solutions.
 */
const ROUNDS = [
  { steps: 4, slack: 2, damping: 2 },
  { steps: 4, slack: 1, damping: 20 },
] as const;

/** The mark that shows each sole point. */
const SOLE_MARKS = {
  leftHeel: 'leftHeel',
  leftToe: 'leftFootIndex',
  rightHeel: 'rightHeel',
  rightToe: 'rightFootIndex',
} as const satisfies Record<SolePoint['name'], MarkName>;

/** The fit in three rounds: without a floor, with it and the contacts that were found, and once more. */
function fitWhole(
  start: Motion,
  first: PinholeCamera,
  observations: BodyObservations,
  body: MeasuredBody,
  options: SolveOptions,
): Pick<SolvedTake, 'motion' | 'camera' | 'contacts'> {
  const weights = { ...FIT_WEIGHTS, ...options.weights };
  const prepared = prepareHinges(start);
  const { motion } = prepared;
  let camera = first;
  const findsTilt = options.tilt === undefined;
  const evidence = {
    observations,
    agilities: agilities(observations, body.scale),
    scale: body.scale,
    height: body.proportions.height,
    weights,
  };
  fitTake(motion, { ...evidence, camera, contacts: null, slack: START.slack, damping: START.damping }, START.steps);
  let contacts: SolvedTake['contacts'] = null;
  const picture = solePoints(motion).map(({ name }) => pictureRun(observations, SOLE_MARKS[name]));
  for (const { steps, slack, damping } of ROUNDS) {
    camera = levelFloor(motion, camera, findsTilt);
    const points = solePoints(motion);
    const found =
      options.contacts === false
        ? null
        : findContacts({
            track: soleTrack(motion, points),
            picture,
            soles: points.length,
            frames: motion.frames,
            rate: motion.rate,
            view: viewOf(motion, camera),
            hips: Float64Array.from({ length: motion.frames }, (_, frame) => motion.root[frame * 3 + 1]),
            slack,
          });
    fitTake(motion, { ...evidence, camera, contacts: found, slack, damping }, steps);
    contacts = found && (Object.fromEntries(points.map(({ name }, i) => [name, found[i]])) as Resting<Float64Array>);
  }
  camera = overOrigin(motion, levelFloor(motion, camera, findsTilt));
  restoreLimbs(prepared);
  alignSigns(motion);
  easeMotion(motion);
  return { motion, camera, contacts: contacts && { ...contacts, ...handRests(motion, observations) } };
}

/** Shifts motion and camera together along the floor so that the hips start over the origin. Changes the motion in place. */
function overOrigin(motion: Motion, camera: PinholeCamera): PinholeCamera {
  const [x, z] = [motion.root[0], motion.root[2]];
  for (let frame = 0; frame < motion.frames; frame++) {
    motion.root[frame * 3] -= x;
    motion.root[frame * 3 + 2] -= z;
  }
  return { ...camera, position: [camera.position[0] - x, camera.position[1], camera.position[2] - z] };
}

/** Direction from the camera to the middle of the path. */
function viewOf(motion: Motion, camera: PinholeCamera): number[] {
  const mean = [0, 0, 0];
  for (let i = 0; i < motion.root.length; i++) mean[i % 3] += motion.root[i] / motion.frames;
  const line = vec3.normalize(
    [0, 0, 0],
    [mean[0] - camera.position[0], mean[1] - camera.position[1], mean[2] - camera.position[2]],
  );
  return [...line];
}

/** Joints where the network sees them: ankles higher. */
function networkPoints(positions: Float64Array, placing: readonly number[], height: number): number[][] {
  const at = (joint: number): vec3 => [positions[joint * 3], positions[joint * 3 + 1], positions[joint * 3 + 2]];
  const towards = (from: vec3, to: vec3, metres: number): vec3 => {
    const line = vec3.subtract([0, 0, 0], to, from);
    return vec3.scaleAndAdd([0, 0, 0], from, vec3.normalize(line, line), metres);
  };
  return PLACING.map(([, joint], i) => {
    const point = at(placing[i]);
    if (joint.endsWith('Foot')) return [...towards(point, at(placing[i - 1]), MARK_OFFSETS.Ankle[1] * height)];
    return [...point];
  });
}

/** Fills frames without a place from their neighbours: straight between, held at the ends. */
function bridgeGaps(motion: Motion, placed: Uint8Array): Uint8Array {
  const bridged = placed.map((flag) => 1 - flag);
  const good = Array.from(placed.keys()).filter((frame) => placed[frame]);
  const a: quat = [0, 0, 0, 1];
  const b: quat = [0, 0, 0, 1];
  let next = 0;
  for (let frame = 0; frame < motion.frames; frame++) {
    while (next < good.length && good[next] < frame) next++;
    if (placed[frame]) continue;
    const after = good[Math.min(next, good.length - 1)];
    const before = good[Math.max(0, next - 1)];
    const t = after > before ? Math.min(1, Math.max(0, (frame - before) / (after - before))) : 0;
    for (let joint = 0; joint < motion.skeleton.joints.length; joint++) {
      readRotation(motion, joint, before, a);
      readRotation(motion, joint, after, b);
      writeRotation(motion, joint, frame, quat.slerp([0, 0, 0, 1], a, b, t));
    }
    for (let axis = 0; axis < 3; axis++)
      motion.root[frame * 3 + axis] = motion.root[before * 3 + axis] * (1 - t) + motion.root[after * 3 + axis] * t;
  }
  return bridged;
}

/** Turns a motion from camera axes to the world, its first frame over the origin; gives the camera there. */
function toWorld(motion: Motion, up: quat, focal: number, width: number, height: number): PinholeCamera {
  const turn: quat = [0, 0, 0, 1];
  const start = vec3.transformQuat([0, 0, 0], [motion.root[0], motion.root[1], motion.root[2]], up);
  for (let frame = 0; frame < motion.frames; frame++) {
    const place = vec3.transformQuat(
      [0, 0, 0],
      [motion.root[frame * 3], motion.root[frame * 3 + 1], motion.root[frame * 3 + 2]],
      up,
    );
    motion.root.set([place[0] - start[0], place[1] - start[1], place[2] - start[2]], frame * 3);
    readRotation(motion, 0, frame, turn);
    writeRotation(motion, 0, frame, quat.multiply([0, 0, 0, 1], up, turn));
  }
  const axes = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as vec3[]
  ).flatMap((axis) => [...vec3.transformQuat([0, 0, 0], axis, up)]);
  return { position: [-start[0], -start[1], -start[2]], axes, focal, width, height };
}
