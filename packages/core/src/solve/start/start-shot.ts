import { quat, vec3 } from 'gl-matrix';
import type { PinholeCamera } from '../../camera/pinhole';
import { alignSigns, readRotation, writeRotation, type Motion } from '../../motion/motion';
import type { BodyObservations } from '../../observe/body';
import { gaussianColumns } from '../../signal/gaussian';
import { NO_CONTEXT } from '../../passes/pass';
import { smooth } from '../../passes/smooth';
import type { MeasuredBody } from '../body/proportions';
import type { ShotGround } from '../floor/shot-ground';
import { uprightTurn } from '../floor/upright';
import type { SeenBody } from '../observe/observe-shot';
import type { SolveOptions } from '../solved';
import { bridgeGaps, firstEstimate } from './first-estimate';

/** A motion to begin with, in the world, and the camera there. */
export interface ShotStart {
  motion: Motion;
  camera: PinholeCamera;
  /** 1 where nobody was seen and poses lead over. */
  bridged: Uint8Array;
}

/** The first estimate of a shot, frame by frame, evenly smoothed and stood upright, its hips over the origin of the first frame. */
export function startShot(
  seen: SeenBody,
  body: MeasuredBody,
  ground: ShotGround | null,
  options: SolveOptions,
): ShotStart {
  const { frames, rate, width, height } = seen.observations;
  const { motion, placed } = firstEstimate(seen, body);
  const bridged = bridgeGaps(motion, placed);
  // Depth is the weak axis: it gets the strongest smoothing.
  const path = gaussianColumns(motion.root, 3, 0.05 * rate);
  const depth = gaussianColumns(motion.root, 3, 0.15 * rate);
  for (let frame = 0; frame < frames; frame++)
    motion.root.set([path[frame * 3], path[frame * 3 + 1], depth[frame * 3 + 2]], frame * 3);
  const camera = toWorld(motion, upright(seen.observations, ground, options), seen.focal, width, height);
  alignSigns(motion);
  const calm =
    options.smooth === false ? motion : smooth.apply(motion, smooth.options.parse({ gestures: false }), NO_CONTEXT);
  return { motion: calm, camera, bridged };
}

/** The turn from the camera's axes to the world's: by the tilt that is given, by the floor that people tell, or by the body alone. */
function upright(observations: BodyObservations, ground: ShotGround | null, { tilt }: SolveOptions): quat {
  if (tilt !== undefined) return quat.setAxisAngle([0, 0, 0, 1], [1, 0, 0], (-tilt * Math.PI) / 180);
  if (ground) return quat.rotationTo([0, 0, 0, 1], ground.up, [0, 1, 0]);
  return uprightTurn(observations, observations.world);
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
