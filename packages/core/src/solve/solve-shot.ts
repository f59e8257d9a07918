import { quat, vec3 } from 'gl-matrix';
import { DEFAULT_FIELD_OF_VIEW, focalFromFieldOfView, type PinholeCamera } from '../camera/pinhole';
import { solePoints, soleTrack } from '../ground/floor';
import { handRests } from '../ground/hand-rests';
import type { Resting } from '../ground/plants';
import { settleOnFloor } from '../ground/settle';
import { alignSigns, readRotation, writeRotation, type Motion } from '../motion/motion';
import type { BodyObservations } from '../observe/body';
import type { SolvedFootage } from '../observe/slice-footage';
import { cameraTurns, untoldShare, widestTurn, withSteadyView } from '../observe/steady-view';
import { withSidesApart } from '../observe/told-apart';
import { gaussianColumns } from '../passes/gaussian';
import { NO_CONTEXT } from '../passes/pass';
import { smooth } from '../passes/smooth';
import { easeMotion } from './ease';
import { withFeetAhead } from './feet-ahead';
import { agilities } from './fit/agility';
import { findContacts } from './fit/contacts';
import { pictureRun, SOLE_MARKS } from './fit/sole-picture';
import { levelFloor, liftWorld } from './fit/floor-plane';
import { fitTake } from './fit/fit-take';
import { FIT_WEIGHTS } from './fit/evidence';
import { prepareHinges, restoreLimbs } from './fit/hinges';
import { bridgeGaps, firstEstimate, type SeenBody } from './first-estimate';
import { keepOnSpot, seat, withoutLegs } from './manner';
import { peopleGround, type PeopleGround } from './people-ground';
import type { MeasuredBody } from './proportions';
import type { SolvedTake, SolveOptions } from './solved';
import { standingSoles } from './standing';
import { uprightTurn } from './upright';
import { withCorrection } from './with-correction';

/** What was seen in a shot, as a camera would have seen it that stands still. */
export interface SeenShot extends SeenBody {
  /** See `SolvedTake`. */
  turned: number;
  untold: number;
}

/** First stage: takes out what the camera moved, and what the network is known to confuse. */
export function observeShot(footage: SolvedFootage, options: SolveOptions): SeenShot {
  const focal = focalFromFieldOfView(options.fieldOfView ?? DEFAULT_FIELD_OF_VIEW, footage.width, footage.height);
  const turns = options.steady === false ? null : cameraTurns(footage, focal);
  const steady = withSteadyView(footage, turns, focal);
  const observations = options.manner === 'seated' ? withoutLegs(steady) : withFeetAhead(withSidesApart(steady));
  return { steady, observations, focal, turned: widestTurn(turns), untold: untoldShare(footage) };
}

/** The floor of a shot as its people tell it; shared where all who are seen in it stand in one world. */
export type ShotGround = PeopleGround & { shared: boolean };

/** Second stage: floor and camera of a shot from all who are seen in it; null where the tilt is given or nobody stands. */
export function groundOfShot(
  seen: SeenShot,
  others: readonly (SeenShot & { height?: number })[],
  { height, tilt, manner }: SolveOptions,
): ShotGround | null {
  if (tilt !== undefined || manner === 'seated') return null;
  const ground = peopleGround([{ observations: seen.observations, height }, ...others], seen.focal);
  return ground && { ...ground, shared: others.length > 0 };
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
  ground: ShotGround | null,
  options: SolveOptions,
): ShotSolution {
  const seated = options.manner === 'seated';
  const { frames, rate, width, height } = observations;
  const { motion, placed } = firstEstimate({ steady, observations, focal }, body);
  const bridged = bridgeGaps(motion, placed);
  // Depth is the weak axis: it gets the strongest smoothing.
  const path = gaussianColumns(motion.root, 3, 0.05 * rate);
  const depth = gaussianColumns(motion.root, 3, 0.15 * rate);
  for (let frame = 0; frame < frames; frame++)
    motion.root.set([path[frame * 3], path[frame * 3 + 1], depth[frame * 3 + 2]], frame * 3);

  const camera = toWorld(motion, upright(observations, ground, options), focal, width, height);
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
    withCorrection(observations, body, focal, options.correction),
    body,
    seated ? { ...options, contacts: false } : options,
    ground,
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

/** The turn from the camera's axes to the world's: by the tilt that is given, by the floor that people tell, or by the body alone. */
function upright(observations: BodyObservations, ground: ShotGround | null, { tilt }: SolveOptions): quat {
  if (tilt !== undefined) return quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], (-tilt * Math.PI) / 180);
  if (ground) return quat.rotationTo([0, 0, 0, 1], ground.up, [0, 1, 0]);
  return uprightTurn(observations, observations.world);
}

/** The first round of the fit, a start for the others: it knows no floor but one that people tell. */
const START = { steps: 3, slack: 3, damping: 2 } as const;

/**
 * Rounds of the fit with floor and contacts. In the first the floor is not known well, so heights count
 * generously, and so do a depth camera's depths; in the last each unknown is held more, which settles what would swing between two solutions.
 */
const ROUNDS = [
  { steps: 4, slack: 2, damping: 2 },
  { steps: 4, slack: 1, damping: 20 },
] as const;

/** How surely people must tell pitch (radians) and height of the camera (a part of it) for them to be placed by their feet. */
const GROUND_TOLD = { pitch: 0.05, height: 0.15 };
/** How far soles that rest in the picture may be off the floor, and travel in a frame, at the start: metres. */
const STANDING = 0.03;

/** The fit in three rounds: without a floor, with it and the contacts that were found, and once more. */
function fitWhole(
  start: Motion,
  first: PinholeCamera,
  observations: BodyObservations,
  body: MeasuredBody,
  options: SolveOptions,
  ground: ShotGround | null,
): Pick<SolvedTake, 'motion' | 'camera' | 'contacts'> {
  const weights = { ...FIT_WEIGHTS, ...options.weights };
  const prepared = prepareHinges(start);
  const { motion } = prepared;
  let camera = first;
  // In a shared world nobody tilts the floor by their own feet alone.
  const findsTilt = options.tilt === undefined && !ground?.shared;
  const evidence = {
    observations,
    agilities: agilities(observations, body.scale),
    scale: body.scale,
    height: body.proportions.height,
    weights,
  };
  const told = ground && groundIsTold(ground);
  // The camera is as high above y = 0 as above the floor.
  if (told) camera = liftWorld(motion, camera, ground.cameraHeight - camera.position[1]);
  fitTake(
    motion,
    {
      ...evidence,
      camera,
      contacts: told ? standingSoles(motion, observations) : null,
      weights: { ...weights, floor: STANDING, rest: STANDING },
      slack: START.slack,
      damping: START.damping,
    },
    START.steps,
  );
  let contacts: SolvedTake['contacts'] = null;
  const picture = solePoints(motion).map(({ name }) => pictureRun(observations, SOLE_MARKS[name]));
  for (const { steps, slack, damping } of ROUNDS) {
    camera = levelFloor(motion, camera, findsTilt, ground?.pitchDoubt);
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
  camera = overOrigin(
    motion,
    levelFloor(motion, camera, findsTilt, ground?.pitchDoubt),
    ground?.shared ? ground : null,
  );
  restoreLimbs(prepared);
  alignSigns(motion);
  easeMotion(motion);
  return { motion, camera, contacts: contacts && { ...contacts, ...handRests(motion, observations) } };
}

/** True where people tell the floor well enough to be placed by their feet. */
function groundIsTold({ pitchDoubt, heightDoubt }: PeopleGround): boolean {
  return pitchDoubt < GROUND_TOLD.pitch && heightDoubt < GROUND_TOLD.height;
}

/**
 * Shifts motion and camera together along the floor so that the hips start over the origin, or, in a shared world, so that the origin lies
 * amid all who are seen. Changes the motion in place.
 */
function overOrigin(motion: Motion, camera: PinholeCamera, world: ShotGround | null): PinholeCamera {
  const middle =
    world &&
    [0, 2].map((k) =>
      [0, 3, 6].reduce((sum, row, i) => sum + camera.axes[row + k] * world.middle[i], camera.position[k]),
    );
  const [x, z] = middle ?? [motion.root[0], motion.root[2]];
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
