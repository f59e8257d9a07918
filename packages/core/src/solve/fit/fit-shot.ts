import { vec3 } from 'gl-matrix';
import type { PinholeCamera } from '../../camera/pinhole';
import { solePoints, soleTrack } from '../../ground/floor';
import { handRests } from '../../ground/hand-rests';
import type { Resting } from '../../ground/plants';
import { alignSigns, type Motion } from '../../motion/motion';
import type { BodyObservations } from '../../observe/body';
import { easeMotion } from '../after/ease';
import type { MeasuredBody } from '../body/proportions';
import { findContacts } from '../floor/contacts';
import { levelFloor, liftWorld } from '../floor/floor-plane';
import type { PeopleGround } from '../floor/people-ground';
import type { ShotGround } from '../floor/shot-ground';
import { pictureRun, SOLE_MARKS } from '../floor/sole-picture';
import { standingSoles } from '../floor/standing';
import { hintedDepths, withHints } from '../hints/depth-hints';
import type { SolvedTake, SolveOptions } from '../solved';
import { agilities } from './agility';
import { FIT_WEIGHTS } from './evidence';
import { fitTake } from './fit-take';
import { prepareHinges, restoreLimbs } from './hinges';

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

/** Fits a whole shot in three rounds: without a floor, with it and the contacts that were found, and once more. */
export function fitShot(
  start: Motion,
  first: PinholeCamera,
  seen: BodyObservations,
  body: MeasuredBody,
  options: SolveOptions,
  ground: ShotGround | null,
): Pick<SolvedTake, 'motion' | 'camera' | 'contacts'> {
  const hints = options.hints?.length
    ? hintedDepths(seen, options.hints, { scale: body.scale, height: body.proportions.height })
    : null;
  const observations = hints ? withHints(seen, hints, body.scale) : seen;
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
    hints,
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
