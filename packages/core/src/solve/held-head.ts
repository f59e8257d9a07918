import { quat } from 'gl-matrix';
import { DEFAULT_FIELD_OF_VIEW, lookAt } from '../camera/pinhole';
import { solveFace } from '../face/solve-face';
import { averageProportions, humanoidSkeleton } from '../motion/humanoid';
import { readRotation, restMotion, worldPositions, writeRotation, type Motion } from '../motion/motion';
import { jointIndex, type Skeleton } from '../motion/skeleton';
import { standEasy } from '../motion/stand-easy';
import type { SolvedFootage } from '../observe/slice-footage';
import { partIsSeen, unseenParts } from '../observe/unseen';
import { USUAL_HEIGHT } from './body/proportions';
import { SolveError, type SolvedTake, type SolveOptions } from './solved';

/** How far before the face the camera is, metres. */
const BEFORE_FACE = 0.35;

/**
 * Solves a take whose camera is fixed to the head. Nothing in the picture tells how head and body move, so somebody of average proportions stands easy and still, and the face alone
 * moves; no body need have been seen.
 * @throws SolveError when no face was captured or seen.
 */
export function solveHeldHead({ face, frames, rate, width, height }: SolvedFootage, options: SolveOptions): SolvedTake {
  if (!face)
    throw new SolveError('A camera held on the head shows a face alone: turn on Face, and track the take again.');
  if (!face.presence.some((_, frame) => partIsSeen(face, frame)))
    throw new SolveError('No face was seen in this take, so there is nothing that could move.');
  const proportions = averageProportions(options.height ?? USUAL_HEIGHT);
  const motion = standing(humanoidSkeleton(proportions), frames, rate);
  const head = jointIndex(motion.skeleton, 'head') * 3;
  const [x, y, z] = worldPositions(motion).subarray(head, head + 3);
  const eyes = y + proportions.head / 2;
  const camera = lookAt(
    [x, eyes, z + BEFORE_FACE],
    [x, eyes, z],
    options.fieldOfView ?? DEFAULT_FIELD_OF_VIEW,
    width,
    height,
  );
  const { neutral, mouth } = options;
  return {
    motion: options.fit === false ? motion : { ...motion, curves: solveFace(face, rate, { neutral, mouth }) },
    body: { scale: 1, heightEstimated: options.height === undefined, pose: null, proportions },
    camera,
    shots: [{ from: 0, until: frames, camera }],
    turned: 0,
    untold: 0,
    floorDoubt: 0,
    bridged: new Uint8Array(frames),
    unseen: unseenParts({ face }),
    contacts: null,
  };
}

/** Somebody who stands easy over the origin for some frames. */
function standing(skeleton: Skeleton, frames: number, rate: number): Motion {
  const stand = standEasy(skeleton, rate);
  const motion = restMotion(skeleton, frames, rate);
  for (let frame = 0; frame < frames; frame++) {
    motion.root.set(stand.root, frame * 3);
    skeleton.joints.forEach((_, joint) =>
      writeRotation(motion, joint, frame, readRotation(stand, joint, 0, quat.create())),
    );
  }
  return motion;
}
